import { fieldAt, type Path, type Value, valueAt, withValue } from '../model/index.js';
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
  context: Context,
  { of, to, key }: { readonly of: Path; readonly to: string; readonly key: Path },
): Value | undefined {
  const stored = storedKeys(context, { to, key });
  const others = keysIn(context.otherBefore, { to, key });
  return [...others, ...(context.choices.get(of) ?? [])].find((one) => one != null && !stored.includes(one));
}

/** The keys of the rows that are stored for the base of cases. */
export function storedKeys({ before, beside }: Context, target: Target): readonly Value[] {
  return [...keysIn(before, target), ...beside(target.to).map((row) => valueAt(row, target.key))];
}

interface Target {
  readonly to: string;
  readonly key: Path;
}

/** The keys of rows of a ruleset. */
export function keysIn(rows: Context['before'], { to, key }: Target): readonly Value[] {
  return rows.flatMap(({ ruleset, row }) => (ruleset === to ? [valueAt(row, key)] : []));
}
