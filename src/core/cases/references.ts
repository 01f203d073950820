import { valueAt, withValue } from '../model/index.js';
import { type Context, type Criterion, carried } from './context.js';

/** The target must be there: a key that fits, and that no stored row has. */
export const references: Criterion = (context) =>
  context.model.constraints.flatMap(({ id, predicate }) => {
    if (predicate.op !== 'refersTo' || predicate.of.includes('[]')) return [];
    const missing = missingKey(context, predicate);
    if (missing === undefined) return [];
    const row = context.settle(withValue(context.base, predicate.of, missing), [predicate.of], id);
    return (['json', 'row'] as const).map((wire) => ({
      constraint: id,
      reason: `the ${predicate.to} it names is not stored`,
      wire,
      input: carried(context, row, wire),
    }));
  });

function missingKey(
  { before, otherBefore, choices }: Context,
  { of, to, key }: { readonly of: string; readonly to: string; readonly key: string },
) {
  const keysIn = (rows: Context['before']) =>
    rows.flatMap(({ ruleset, row }) => (ruleset === to ? [valueAt(row, key)] : []));
  const stored = keysIn(before);
  return [...keysIn(otherBefore), ...(choices.get(of) ?? [])].find((one) => one != null && !stored.includes(one));
}
