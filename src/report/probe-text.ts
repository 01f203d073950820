import type { Mismatch, ProbeResult, RuleRow, SetupFault } from '../agreement/index.js';
import type { Schema } from '../core/declare/index.js';
import type { Constraint } from '../core/model/index.js';
import { counted, plural } from './counts.js';
import { notApplicableText, silentLayerText } from './layer-coverage-text.js';
import { columns, type Look, type Paint, paintFor } from './table.js';
import { suggestedText, toleratedText } from './tolerances-text.js';
import { untestedText } from './untested-text.js';
import { shownCase } from './values.js';

/** A probe as a person reads it: who agrees on what, then each disagreement with its shortest input. */
export function probeText(
  result: ProbeResult,
  schema: Schema,
  look: Look,
  everything: { readonly known: boolean },
): string {
  const paint = paintFor(look);
  const { mismatches, known } = result;
  const isBroken = result.byRule.some(({ breakdowns }) => breakdowns > 0);
  const isTolerated = result.tolerated.length > 0;
  const parts = [
    ...result.setupFaults.map((fault) => setupFaultText(fault, paint)),
    ...result.coverage.filter(({ silent }) => silent).map((one) => silentLayerText(one, look)),
    matrix(
      schema.filter((model) => isJudged(model, result)),
      result,
      look,
      paint,
    ),
    paint.dim(
      `✓ cases that agree   ~ that differ as the ledger says${isTolerated ? '   ≈ as is tolerated' : ''}   ✗ that disagree${isBroken ? '   ! that broke down' : ''}   – none for this layer`,
    ),
  ];
  if (mismatches.length > 0)
    parts.push(list('Disagreements', mismatches, schema, look, paint), mends(mismatches, look, paint));
  const suggested = suggestedText(result, look);
  if (suggested !== null) parts.push(suggested);
  const tolerated = everything.known ? toleratedText(result, look) : null;
  if (tolerated !== null) parts.push(tolerated);
  if (everything.known && known.length > 0) parts.push(list('Known differences', known, schema, look, paint));
  const left = everything.known ? notApplicableText(result.coverage, look) : null;
  if (left !== null) parts.push(left);
  if (result.untested.length > 0) parts.push(untestedText(result.untested, look));
  parts.push(verdictLine(result, paint));
  return `${parts.join('\n\n')}\n`;
}

function isJudged({ constraints }: Schema[number], { byRule }: ProbeResult): boolean {
  const ids = new Set(constraints.map(({ id }) => id));
  return byRule.some(({ rule, cases }) => cases > 0 && ids.has(rule));
}

/** What comes before all else: an error that most answers are says nothing of the rules. */
function setupFaultText({ layer, reason, breakdowns, answers }: SetupFault, paint: Paint): string {
  const head = `${layer}: ${counted(breakdowns)} of ${counted(answers)} answers are the same breakdown.`;
  return `${paint.red(paint.bold(head))} Most likely its set-up is at fault, and not the rules; correct it first.\n  ${reason}`;
}

/** One row a field or rule, one column a layer; the rulesets below one another in one table. */
function matrix(models: Schema, { layers, byRule }: ProbeResult, look: Look, paint: Paint): string {
  const names = layers.map(({ name }) => name);
  const rows = models.flatMap((model, at) => [
    ...(at === 0 ? [] : [['']]),
    [paint.bold(model.ruleset), ...names.map((name) => paint.bold(name))],
    ...groupsOf(model).map(([title, rules]) => {
      const cell = (layer: string) => byRule.filter((row) => row.layer === layer && rules.includes(row.rule));
      return [`  ${title}`, ...names.map((layer) => cellText(cell(layer), paint))];
    }),
  ]);
  return columns(rows, look);
}

/** One line a field, with all its facets, and one a named rule. */
function groupsOf({
  constraints,
  ruleset,
}: Schema[number]): readonly (readonly [title: string, rules: readonly string[]])[] {
  const title = ({ facet, blame, id }: Constraint) =>
    facet ? (blame === '' ? 'the record itself' : blame) : id.slice(ruleset.length + 1);
  const groups = new Map<string, string[]>();
  for (const one of [...constraints].sort((a, b) => Number(b.facet) - Number(a.facet))) {
    groups.set(title(one), [...(groups.get(title(one)) ?? []), one.id]);
  }
  return [...groups];
}

function cellText(rows: readonly RuleRow[], paint: Paint): string {
  const sum = (pick: (row: RuleRow) => number) => rows.reduce((total, row) => total + pick(row), 0);
  const [disagreeing, breakdowns] = [sum((row) => row.disagreeing), sum((row) => row.breakdowns)];
  const [agreeing, known, tolerated] = [
    sum((row) => row.agreeing),
    sum((row) => row.known),
    sum((row) => row.tolerated),
  ];
  const parts = [
    ...(disagreeing > 0 ? [paint.red(`✗ ${counted(disagreeing)}`)] : []),
    ...(breakdowns > 0 ? [paint.red(`! ${counted(breakdowns)}`)] : []),
    ...(agreeing > 0 ? [paint.green(`✓ ${counted(agreeing)}`)] : []),
    ...(known > 0 ? [paint.yellow(`~ ${counted(known)}`)] : []),
    ...(tolerated > 0 ? [paint.yellow(`≈ ${counted(tolerated)}`)] : []),
  ];
  return parts.length === 0 ? paint.dim('–') : parts.join(' ');
}

/** One row a cause, under its ruleset. The kind is in the words: accepts, refuses, stores, blames, breaks down. */
function list(title: string, mismatches: readonly Mismatch[], schema: Schema, look: Look, paint: Paint): string {
  const head = ['layer', 'rule', 'shortest input', 'what it does'].map((name) => paint.dim(name));
  const rows = schema.flatMap(({ ruleset, constraints }) => {
    const own = mismatches.filter((one) => one.ruleset === ruleset);
    if (own.length === 0) return [];
    const lines = own.map((one) => {
      const { layer, rule, reason, shows, flaky } = one;
      const subjects = constraints.find(({ id }) => id === rule)?.subjects ?? [];
      const does = reason === 'accepts it' ? `${reason} ${paint.dim(`(${shows})`)}` : cut(reason);
      const often = flaky === null ? '' : paint.yellow(`; flaky: so in ${flaky.differed} of ${flaky.tries} tries`);
      const number = `${mismatches.indexOf(one) + 1}`.padStart(2);
      return [`${number} ${layer}`, paint.bold(rule.slice(ruleset.length + 1)), shownCase(one, subjects), does + often];
    });
    return [[paint.bold(ruleset), ...head.slice(1)], ...lines];
  });
  return `${paint.bold(`${title}: ${mismatches.length}`)}\n${columns(rows, look, 3)}`;
}

/** By the numbers of the list: what is likely behind each disagreement, and what its rule is compiled to. */
function mends(mismatches: readonly Mismatch[], look: Look, paint: Paint): string {
  const rows = mismatches.flatMap(({ layer, guess, mend, kind }, at) => {
    if (guess === null && mend === null) return [];
    const number = `${at + 1}`.padStart(2);
    return [
      [`${number} ${layer}`, guess ?? paint.dim('–'), mend === null || kind === 'blame' ? paint.dim('–') : cut(mend)],
    ];
  });
  if (rows.length === 0) return '';
  const head = ['layer', 'the likely mistake', 'what the rule is compiled to'].map((name) => paint.dim(name));
  return `${paint.bold('To fix them')}\n${columns([head, ...rows], look, 2)}`;
}

function verdictLine(
  { rulesets, layers, cases, answers, notApplicable, mismatches, known, byRule, coverage }: ProbeResult,
  paint: Paint,
): string {
  const asked = `${counted(cases)} cases over ${plural(rulesets.length, 'ruleset')}, ${plural(layers.length, 'layer')}, ${counted(answers)} answers`;
  const allowed = byRule.reduce((sum, { tolerated }) => sum + tolerated, 0);
  const left = `${counted(notApplicable)} not applicable, ${plural(known.length, 'known difference')}${allowed > 0 ? `, ${counted(allowed)} tolerated` : ''}`;
  const silent = new Set(coverage.filter((one) => one.silent).map(({ layer }) => layer)).size;
  const findings = [
    ...(mismatches.length > 0 ? [plural(mismatches.length, 'disagreement')] : []),
    ...(silent > 0 ? [`${plural(silent, 'layer')} not tested`] : []),
  ];
  const verdict =
    findings.length === 0
      ? paint.green(paint.bold('All layers agree.'))
      : paint.red(paint.bold(`${findings.join(', ')}.`));
  return `${verdict} ${asked} (${left}).`;
}

const MOST_WORDS = 70;

function cut(reason: string): string {
  return reason.length <= MOST_WORDS ? reason : `${reason.slice(0, MOST_WORDS - 1)}…`;
}
