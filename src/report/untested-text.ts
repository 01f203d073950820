import type { UntestedReason, UntestedRule } from '../agreement/index.js';
import { plural } from './counts.js';
import { columns, type Look, paintFor } from './table.js';

const lacking: { readonly [L in UntestedRule['lacks']]: string } = {
  both: 'no case accepts or refuses',
  accepting: 'no case accepts',
  refusing: 'no case refuses',
};

/** The rules that no case accepts, or no case refuses, with the reason; those of one field in one line. */
export function untestedText(untested: readonly UntestedRule[], look: Look): string {
  const paint = paintFor(look);
  const lines = new Map<string, { readonly of: UntestedRule; readonly facets: string[] }>();
  for (const one of untested) {
    const at = one.rule.lastIndexOf('.');
    const key = `${one.rule.slice(0, at)} ${lacksOf(one)} ${one.reason}`;
    const line = lines.get(key) ?? { of: one, facets: [] };
    line.facets.push(one.rule.slice(at + 1));
    lines.set(key, line);
  }
  const rows = [...lines.values()].map(({ of, facets }) => [
    `  ${of.rule.slice(0, of.rule.lastIndexOf('.'))}`,
    facets.join(', '),
    lacking[lacksOf(of)],
    of.words,
  ]);
  return `${paint.bold(`Not tested on both sides: ${plural(untested.length, 'rule')}`)}\n${columns(rows, look, 3)}`;
}

/** Of what nobody sends, one side says as much as the other. */
const unsent: readonly UntestedReason[] = ['storeFills', 'serverMakes'];

function lacksOf({ lacks, reason }: UntestedRule): UntestedRule['lacks'] {
  return unsent.includes(reason) ? 'both' : lacks;
}
