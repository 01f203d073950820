import type { LayerCoverage } from '../agreement/index.js';
import { counted, plural } from './counts.js';
import { columns, type Look, paintFor } from './table.js';

/** So many reasons of a layer are shown, the most frequent first. */
const MOST_REASONS = 6;

/** A layer that answers none or few of the cases that are for it: its agreement in the others says little. */
export function silentLayerText({ layer, ruleset, cases, answered, notApplicable }: LayerCoverage, look: Look): string {
  const paint = paintFor(look);
  const head = `${layer}: ${counted(answered)} of ${counted(cases)} cases of ${ruleset} are answered.`;
  return [
    `${paint.red(paint.bold(head))} The layer is not tested; correct its set-up first. Not applicable:`,
    columns(
      reasonRows(notApplicable).map((row) => row.map((cell, at) => (at === 0 ? `  ${cell}` : cell))),
      look,
      1,
    ),
  ].join('\n');
}

/** Why cases are not applicable, counted for each layer over all rulesets. */
export function notApplicableText(coverage: readonly LayerCoverage[], look: Look): string | null {
  const paint = paintFor(look);
  const layers = [...new Set(coverage.map(({ layer }) => layer))];
  const rows = layers.flatMap((layer) => {
    const counts = new Map<string, number>();
    for (const one of coverage.filter((other) => other.layer === layer))
      for (const { reason, cases } of one.notApplicable) counts.set(reason, (counts.get(reason) ?? 0) + cases);
    const reasons = [...counts].map(([reason, cases]) => ({ reason, cases })).sort((a, b) => b.cases - a.cases);
    return reasonRows(reasons).map((row) => [`  ${layer}`, ...row]);
  });
  if (rows.length === 0) return null;
  const head = ['  layer', 'cases', 'reason'].map((name) => paint.dim(name));
  return `${paint.bold('Not applicable')}\n${columns([head, ...rows], look, 2)}`;
}

/** The most frequent reasons, and how many cases have others. */
function reasonRows(reasons: LayerCoverage['notApplicable']): readonly (readonly string[])[] {
  const rest = reasons.slice(MOST_REASONS);
  return [
    ...reasons.slice(0, MOST_REASONS).map(({ reason, cases }) => [counted(cases), reason]),
    ...(rest.length === 0
      ? []
      : [[counted(rest.reduce((sum, { cases }) => sum + cases, 0)), plural(rest.length, 'other reason')]]),
  ];
}
