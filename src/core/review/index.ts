import type { Schema } from '../declare/index.js';
import { Languages } from '../reason/index.js';
import { type Severity, severities } from './catalogue.js';
import { requiredCircles } from './circles.js';
import { contradictions, onlyAbsent } from './contradictions.js';
import { slowPatterns } from './danger.js';
import { fewValues } from './few-values.js';
import type { Finding } from './finding.js';
import { neverFiring, unknownConclusions } from './implications.js';
import { layerGaps } from './layer-gaps.js';
import { collidingNames } from './names.js';
import { withoutValue } from './no-value.js';
import { redundancies, redundantUniques } from './redundancies.js';
import { unfitReferences } from './references.js';
import { subjectOf } from './subject.js';
import { refusedDefaults, unreachableChoices } from './unusable-values.js';

/**
 * Everything that is found in the declarations of a schema, the weightiest first, within that as declared. What is
 * claimed is proved; what could not be decided is told as such.
 */
export function reviewSchema(schema: Schema, asked: Schema = schema): readonly Finding[] {
  const languages = new Languages();
  const found = asked.flatMap((model) => findingsOf(model, schema, languages));
  const together = [...collidingNames(schema), ...requiredCircles(schema)];
  const own = together.filter(({ ruleset }) => asked.some((model) => model.ruleset === ruleset));
  return [...own, ...found].sort((a, b) => weightOf(a) - weightOf(b));
}

function weightOf({ severity }: { readonly severity: Severity }): number {
  return severities.indexOf(severity);
}

function findingsOf(model: Schema[number], schema: Schema, languages: Languages): readonly Finding[] {
  const subject = subjectOf(model, schema, languages);
  const dead = withoutValue(subject);
  const { findings: conflicts, sound } = contradictions(subject, new Set(dead.map(({ field }) => field)));
  const idle = neverFiring(subject, sound);
  const idleRules = new Set(idle.flatMap(({ rules }) => rules[0]?.id ?? []));
  return [
    ...dead,
    ...conflicts,
    ...onlyAbsent(subject, sound),
    ...refusedDefaults(subject, sound),
    ...unreachableChoices(subject, sound),
    ...unfitReferences(subject),
    ...idle,
    ...unknownConclusions(subject, sound),
    ...slowPatterns(subject),
    ...redundancies(subject, sound, idleRules),
    ...redundantUniques(subject),
    ...fewValues(subject),
    ...layerGaps(subject),
  ];
}

export { type FindingCode, findings, type Severity, severities } from './catalogue.js';
export { type Explanation, explainField, type LayerExplained, type RuleExplained } from './explain.js';
export type { Example, Finding, RuleSaid } from './finding.js';
