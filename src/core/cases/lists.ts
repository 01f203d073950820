import { edgesOf, isScalar, isTrimmed, type KnownField, sampleOf, valueField } from '../kinds/index.js';
import { formName, type Pattern, type Value, valueAt, type Wire, wires, withValue } from '../model/index.js';
import { nearMisses } from '../reason/index.js';
import {
  brokenRules,
  type Context,
  type Criterion,
  carried,
  changed,
  type Draft,
  facetOf,
  rawEntry,
} from './context.js';
import { listFields } from './places.js';
import { trapsFor } from './traps.js';

/** Counts at their limits, items at theirs, repeats; and what a careless page or server makes of a list. */
export const lists: Criterion = (context) => listFields(context.model).flatMap((field) => casesOf(context, field));

function casesOf(context: Context, field: KnownField): readonly Draft[] {
  const { path, item, facets } = field;
  if (item === null) return [];
  const about = (facet: string, reason: string) => ({ constraint: facetOf(context, path, facet), reason });
  const { inside, items, at } = withMiddle(context, field, item);
  const ofLength = (length: number): Value => Array.from({ length }, (_, index) => itemLike(item, items, index));
  const { minItems, maxItems } = facets;
  const counts: readonly (readonly [facet: string, count: number, words: string])[] = [
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
        ] as const)
      : []),
    ['type', 0, 'an empty list'],
  ];
  return [
    ...counts.flatMap(([facet, count, words]) => changed(context, { [path]: ofLength(count) }, about(facet, words))),
    ...repeats(context, field, items),
    ...(isScalar(item) ? itemEdges(inside, path, item, items, at) : []),
    // A form may have a place for one entry only.
    ...(isScalar(item) && items.length > 1 ? itemEdges(context, path, item, items.slice(0, 1), 0, ['form']) : []),
    ...(['json', 'row'] as const).map((wire) =>
      rawEntry(context, wire, path, 'x', about('type', 'text instead of a list')),
    ),
    rawEntry(context, 'json', path, {}, about('type', 'an object instead of a list')),
    rawEntry(context, 'json', path, null, about('type', 'null')),
    ...itemTraps(inside, path, item, items, at),
    ...itemPatterns(inside, path, item, items, at),
  ];
}

/** So many near misses of an entry's pattern are tried. */
const MOST_MISSES = 32;

/** Near misses of the pattern of an entry, in the middle of the others. */
function itemPatterns(
  context: Context,
  path: string,
  item: KnownField,
  items: readonly Value[],
  at: number,
): readonly Draft[] {
  const pattern = valueField(item).facets.pattern as Pattern | undefined;
  const routes = pattern == null ? null : context.routesOf(pattern);
  if (routes === null) return [];
  const { misses, left } = nearMisses(routes, MOST_MISSES);
  const constraint = facetOf(context, item.path, 'pattern');
  context.leaveOut(constraint, left);
  return misses.flatMap(({ text, words }) =>
    changed(context, { [path]: putAt(items, at, text) as Value }, { constraint, reason: `${words}, in an entry` }),
  );
}

/** The items of a valid record, three of them where so many may be, and the place of the one in the middle. */
function withMiddle(context: Context, { path, facets }: KnownField, item: KnownField) {
  const base = valueAt(context.base, path);
  const few: readonly Value[] = Array.isArray(base) ? base : [];
  const most = typeof facets.maxItems === 'number' ? facets.maxItems : 3;
  const three = Array.from({ length: Math.min(3, most) }, (_, index) => itemLike(item, few, index));
  const row = withValue(context.base, path, three);
  // Where no valid record has an entry, one is made up all the same: what is wrong with it is told beside the rest.
  const fits = few.length === 0 || (three.length > few.length && brokenRules(context, row).length === 0);
  const items = fits ? three : few;
  return {
    inside: fits ? { ...context, base: row } : context,
    items,
    at: Math.max(Math.ceil(items.length / 2) - 1, 0),
  };
}

/** A list with another item at a place; a list of none gets it as its only one. */
function putAt(items: readonly Value[], at: number, item: unknown): readonly unknown[] {
  return [...items.slice(0, at), item, ...items.slice(at + 1)];
}

function repeats(context: Context, field: KnownField, items: readonly Value[]): readonly Draft[] {
  const [first] = items;
  const isDistinct = context.model.constraints.some(
    ({ id }) => id === `${context.model.ruleset}.${field.path}.distinct`,
  );
  if (!isDistinct || first === undefined) return [];
  const about = { constraint: facetOf(context, field.path, 'distinct'), reason: 'the same entry twice' };
  return changed(context, { [field.path]: [first, first] }, about);
}

/** What is near the grammar of an item and not in it, in place of the one in the middle. */
function itemTraps(
  context: Context,
  path: string,
  item: KnownField,
  items: readonly Value[],
  at: number,
): readonly Draft[] {
  const last = items[at] ?? sampleOf(item, 0);
  const name = `${formName(path)}[${at}]`;
  const put = (wire: Wire, raw: unknown, facet: string, reason: string): Draft => {
    const about = { constraint: facetOf(context, item.path, facet), reason: `${reason}, in an entry` };
    if (wire !== 'form') return rawEntry(context, wire, path, putAt(items, at, raw), about);
    return { ...about, wire, input: { ...carried(context, context.base, wire), [name]: raw } };
  };
  const missing = [put('json', null, 'required', 'null'), put('row', null, 'required', 'NULL')];
  const blank = isScalar(item) ? missing : [put('json', null, 'type', 'null')];
  if (!isScalar(item)) {
    return [
      ...blank,
      put('json', 'x', 'type', 'text'),
      put('json', [], 'type', 'a list'),
      ...innerFields(context, path, item, items, at),
    ];
  }
  const traps = wires.flatMap((wire) =>
    trapsFor(item, last, wire).map(([raw, reason]) => put(wire, raw, 'type', reason)),
  );
  if (!isTrimmed(item)) return [...blank, ...traps];
  return [
    ...blank,
    ...traps,
    put('form', '', 'required', 'the empty text'),
    put('json', '', 'required', 'the empty text'),
    put('json', '  ', 'required', 'spaces only'),
    put('row', '', 'canonical', 'the empty text'),
    ...wires.flatMap((wire) => [
      put(wire, ` ${last} `, 'canonical', 'spaces around it'),
      put(wire, `\u00a0${last}\ufeff`, 'canonical', 'a no-break space before it and a byte order mark behind it'),
      put(wire, `${last}\nx`, 'lines', 'a line feed inside'),
    ]),
  ];
}

/** The fields of an entry that is a record: each missing, each near its grammar and at its edges, in the entry in the middle. */
function innerFields(
  context: Context,
  path: string,
  item: KnownField,
  items: readonly Value[],
  at: number,
): readonly Draft[] {
  const last = items[at];
  if (item.fields === null || typeof last !== 'object' || last === null) return [];
  const record = last as { readonly [name: string]: Value };
  return Object.values(item.fields)
    .filter(isScalar)
    .flatMap((field) => {
      const about = (facet: string, reason: string) => {
        return { constraint: facetOf(context, field.path, facet), reason: `${reason}, in an entry` };
      };
      const name = `${formName(path)}[${at}][${field.name}]`;
      const put = (wire: Wire, raw: unknown, facet: string, reason: string): Draft => {
        if (wire !== 'form')
          return rawEntry(
            context,
            wire,
            path,
            putAt(items, at, { ...record, [field.name]: raw }),
            about(facet, reason),
          );
        return { ...about(facet, reason), wire, input: { ...carried(context, context.base, wire), [name]: raw } };
      };
      const value = record[field.name] ?? sampleOf(field, 0);
      return [
        put('json', null, 'required', 'null'),
        put('form', '', 'required', 'the empty text'),
        ...wires.flatMap((wire) => trapsFor(field, value, wire).map(([raw, reason]) => put(wire, raw, 'type', reason))),
        ...edgesOf(field).flatMap((edge) =>
          changed(
            context,
            { [path]: putAt(items, at, { ...record, [field.name]: edge.value }) as Value },
            about(edge.facet, edge.words),
          ),
        ),
        ...(isTrimmed(field)
          ? (['json', 'form'] as const).map((wire) => put(wire, `${value}\nx`, 'lines', 'a line feed inside'))
          : []),
      ];
    });
}

/** Each edge of the item's own kind, as the item in the middle. */
function itemEdges(
  context: Context,
  path: string,
  item: KnownField,
  items: readonly Value[],
  at: number,
  on: readonly Wire[] = wires,
): readonly Draft[] {
  return edgesOf(item).flatMap(({ facet, value, words }) => {
    const about = { constraint: facetOf(context, item.path, facet), reason: `${words}, in an entry` };
    return changed(context, { [path]: putAt(items, at, value) as Value }, about, on);
  });
}

function itemLike(item: KnownField, items: readonly Value[], at: number): Value {
  if (item.fields !== null) {
    return Object.fromEntries(Object.values(item.fields).map((field) => [field.name, itemLike(field, [], at + 3)]));
  }
  return item.item !== null ? [] : (items[at] ?? sampleOf(item, at + 3));
}
