import { isScalar, type KnownField, targetOf } from '../kinds/index.js';
import { type Value, valueAt, withValue } from '../model/index.js';
import { itemFor } from './base.js';
import { brokenRules, type Context, type Criterion, changed, type Draft, facetOf, rawEntry } from './context.js';
import { type Entries, entryCases } from './entries.js';
import { listFields } from './places.js';

/** Counts at their limits, entries at theirs, repeats; and what a careless page or server makes of a list. */
export const lists: Criterion = (context) => listFields(context.model).flatMap((field) => casesOf(context, field));

function casesOf(context: Context, field: KnownField): readonly Draft[] {
  const { path, item } = field;
  if (item === null) return [];
  const about = (facet: string, reason: string) => ({ constraint: facetOf(context, path, facet), reason });
  const { context: inside, entries } = withMiddle(context, field, item);
  return [
    ...counts(context, field, item, entries.items),
    ...repeats(context, inside, field, entries.items),
    ...entryCases(inside, entries),
    // A form may have a place for one entry only.
    ...(entries.items.length > 1
      ? entryCases(inside, { ...entries, items: entries.items.slice(0, 1), at: 0 }, 'form')
      : []),
    ...(['json', 'row'] as const).map((wire) =>
      rawEntry(context, wire, path, 'x', about('type', 'text instead of a list')),
    ),
    rawEntry(context, 'json', path, {}, about('type', 'an object instead of a list')),
    rawEntry(context, 'json', path, null, about('type', 'null')),
  ];
}

/** Lists of as many entries as there may be, and of some more or one less. */
function counts(context: Context, field: KnownField, item: KnownField, items: readonly Value[]): readonly Draft[] {
  const { path, facets } = field;
  const { minItems, maxItems } = facets;
  const wanted: readonly (readonly [facet: string, count: number, words: string])[] = [
    ...(typeof minItems === 'number' && minItems > 0
      ? ([
          ['minItems', minItems - 1, 'one entry below the least count'],
          ['minItems', minItems, 'exactly the least count'],
        ] as const)
      : []),
    ...(typeof maxItems === 'number'
      ? ([
          ['maxItems', maxItems, 'exactly the greatest count'],
          ['maxItems', maxItems + 1, 'one entry above the greatest count'],
          ['maxItems', maxItems + 2, 'two entries above the maximum count'],
        ] as const)
      : []),
    ['type', 0, 'an empty list'],
  ];
  return wanted.flatMap(([facet, count, reason]) => {
    const list = Array.from({ length: count }, (_, index) => itemLike(context, item, items, index));
    return changed(context, { [path]: list }, { constraint: facetOf(context, path, facet), reason });
  });
}

/** The entries of a valid record, three of them where so many may be, and the place of the one in the middle. */
function withMiddle(context: Context, { path, facets }: KnownField, item: KnownField) {
  const base = valueAt(context.base, path);
  const few: readonly Value[] = Array.isArray(base) ? base : [];
  const most = typeof facets.maxItems === 'number' ? facets.maxItems : 3;
  const filled = [3, 2, 1]
    .filter((count) => count <= most && count > few.length)
    .map((count) => {
      const list = Array.from({ length: count }, (_, index) => itemLike(context, item, few, index));
      return { list, row: context.settle(withValue(context.base, path, list), [path], '') };
    });
  const valid = filled.find(({ row }) => brokenRules(context, row).length === 0);
  // Where no valid record has an entry, one is made up all the same: what is wrong with it is told beside the rest.
  const used = valid ?? (few.length === 0 ? filled[0] : undefined);
  const { list: items, row } = used ?? { list: few, row: context.base };
  const entries: Entries = { path, item, items, at: Math.max(Math.ceil(items.length / 2) - 1, 0) };
  return { context: used === undefined ? context : { ...context, base: row, before: context.targets(row) }, entries };
}

/** An entry twice: alone, behind another, and with another between. */
function repeats(context: Context, inside: Context, field: KnownField, items: readonly Value[]): readonly Draft[] {
  const [first, second] = items;
  const { path, facets } = field;
  if (!isDistinct(context, field) || first === undefined) return [];
  const about = (reason: string) => ({ constraint: facetOf(context, path, 'distinct'), reason });
  const twice = changed(context, { [path]: [first, first] }, about('the same entry twice'));
  if (second === undefined || Number(facets.maxItems ?? 3) < 3) return twice;
  return [
    ...twice,
    ...changed(inside, { [path]: [first, second, second] }, about('the same entry twice, behind another')),
    ...changed(inside, { [path]: [first, second, first] }, about('the same entry twice, with another between')),
  ];
}

/** Two entries of a list that are there twice: two faults of one rule, each at a place of its own. */
export function twoRepeats(context: Context): readonly Draft[] {
  return listFields(context.model).flatMap((field) => {
    const { path, item, facets } = field;
    if (item === null || !isDistinct(context, field) || Number(facets.maxItems ?? 4) < 4) return [];
    const { context: inside, entries } = withMiddle(context, field, item);
    const [first, second] = entries.items;
    if (first === undefined || second === undefined) return [];
    const about = { constraint: `${context.model.ruleset}.type`, reason: `two entries of ${path}, each of them twice` };
    return changed(inside, { [path]: [first, second, second, first] }, about);
  });
}

function isDistinct({ model }: Context, { path }: KnownField): boolean {
  return model.constraints.some(({ id }) => id === `${model.ruleset}.${path}.distinct`);
}

/** The entry at a place of those that there are; a plausible one behind them, and in a list of records. */
function itemLike(context: Context, item: KnownField, items: readonly Value[], at: number): Value {
  const known = isScalar(item) ? items[at] : undefined;
  if (known !== undefined) return known;
  if (targetOf(item) === null) return itemFor(item, at + 3, context.grammars, context.keyFor);
  // Keys come from the seeds of the base's list, so that none comes twice, unless there are no more rows.
  const key = context.keyFor(item, at * 3);
  const isRepeated = Array.from(
    { length: at },
    (_, before) => items[before] ?? context.keyFor(item, before * 3),
  ).includes(key);
  return key === null || isRepeated ? itemFor(item, at + 3, context.grammars) : key;
}
