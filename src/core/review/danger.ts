import type { KnownField } from '../kinds/index.js';
import { type Constraint, fieldAt, type Pattern } from '../model/index.js';
import { type Attack, dangerOf, patternsIn } from '../reason/index.js';
import type { Finding } from './finding.js';
import { findingOf, isDeclared, nameOf, patternText, type Subject } from './subject.js';

/** With texts no longer than this, time that grows with a power of the length is no trouble. */
const SHORT = 1_000;
/** How often the part is repeated in the text that is shown. */
const TIMES = 30;

/** Patterns of a declaration that some texts take too long to match, and those of which that is not known. */
export function slowPatterns(subject: Subject): readonly Finding[] {
  return subject.model.constraints
    .filter((rule) => isDeclared(rule, subject))
    .flatMap((rule) => patternsIn(rule.predicate).flatMap((pattern) => slow(subject, rule, pattern)));
}

function slow(subject: Subject, rule: Constraint, pattern: Pattern): readonly Finding[] {
  const danger = dangerOf(pattern);
  const told = { about: rule, rules: [rule] };
  if (danger.is === 'growing') {
    const { growth } = danger.attack;
    const isHarmless = growth === 'polynomial' && mostLength(rule, subject) <= SHORT;
    return [
      findingOf(subject, {
        ...told,
        code: 'pattern_slow',
        severity: isHarmless ? 'note' : 'warning',
        message: `Some texts take ${growth === 'exponential' ? 'ever so long' : 'much longer with their length'} to match ${patternText(pattern)}.`,
        proof: proofOf(danger.attack),
        examples: [{ words: 'a text to try', value: attackText(danger.attack) }],
        mend: `Write the pattern of ${rule.facet ? rule.owner : nameOf(rule)} so that each text can be read in one way only. The compiled validator is safe: it reads the text once, by a table.`,
      }),
    ];
  }
  // Beyond regular constructs there is no table either.
  if (danger.is === 'linear' || danger.isRegular) return [];
  return [
    findingOf(subject, {
      ...told,
      code: 'undecided',
      severity: 'note',
      message: `How long ${patternText(pattern)} takes to match is not known.`,
      proof: `It can't be decided, as ${danger.why}.`,
      mend: `Write ${nameOf(rule)} without, or give the field a maxLength.`,
    }),
  ];
}

function proofOf({ growth, repeated, suffix }: Attack): string {
  const part = JSON.stringify(repeated);
  const how =
    growth === 'exponential'
      ? `each further ${part} doubles the ways to read it, or more`
      : `the ways to read it grow with a power of how often ${part} is repeated`;
  return `A text of ${part} over and over is refused ${suffix === '' ? 'at its end' : `for the ${JSON.stringify(suffix)} at its end`}, and ${how}.`;
}

function attackText({ prefix, repeated, suffix }: Attack): string {
  return prefix + repeated.repeat(TIMES) + suffix;
}

function mostLength({ owner, subjects }: Constraint, { model }: Subject): number {
  const path = owner === '' ? (subjects[0] ?? '') : owner;
  if (path === '') return Number.POSITIVE_INFINITY;
  const { facets } = fieldAt(model, path) as KnownField;
  return typeof facets.maxLength === 'number' ? facets.maxLength : Number.POSITIVE_INFINITY;
}
