import { fieldAt, valueAt, withValue } from '../model/index.js';
import { distinct } from './base.js';
import { brokenRules, type Context, type Criterion, carried } from './context.js';

/** The target must be there: a key that fits and that no stored row has; and another one that is stored. */
export const references: Criterion = (context) =>
  context.model.constraints.flatMap(({ id, predicate }) => {
    if (predicate.op !== 'refersTo' || predicate.of.includes('[]')) return [];
    const { of } = predicate;
    const both = (reason: string, row: Context['base'], before = context.before) =>
      (['json', 'form', 'row'] as const).map((wire) => ({
        constraint: id,
        reason,
        wire,
        input: carried(context, row, wire),
        before,
      }));
    const missing = missingKey(context, predicate);
    const other = valueAt(context.other, of);
    const optional = fieldAt(context.model, of).optional;
    const named = context.settle(withValue(context.base, of, other), [of], id);
    const there = distinct([...context.before, ...context.otherBefore]);
    const differs = other !== null && other !== valueAt(context.base, of) && brokenRules(context, named).length === 0;
    return [
      ...(missing === undefined
        ? []
        : both(
            `the ${predicate.to} it names is not stored`,
            context.settle(withValue(context.base, of, missing), [of], id),
          )),
      ...(differs ? both(`another stored ${predicate.to}`, named, there) : []),
      ...(optional ? both(`no ${predicate.to} at all`, withValue(context.base, of, null)) : []),
    ];
  });

function missingKey(
  { before, otherBefore, choices, beside }: Context,
  { of, to, key }: { readonly of: string; readonly to: string; readonly key: string },
) {
  const keysIn = (rows: Context['before']) =>
    rows.flatMap(({ ruleset, row }) => (ruleset === to ? [valueAt(row, key)] : []));
  const stored = [...keysIn(before), ...beside(to).map((row) => valueAt(row, key))];
  return [...keysIn(otherBefore), ...(choices.get(of) ?? [])].find((one) => one != null && !stored.includes(one));
}
