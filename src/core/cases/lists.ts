import { edgesOf, isScalar, isTrimmed, type KnownField, sampleOf } from '../kinds/index.js';
import { formName, type Value, valueAt, type Wire, wires } from '../model/index.js';
import { type Context, type Criterion, carried, changed, type Draft, facetOf, rawEntry } from './context.js';
import { listFields } from './places.js';
import { trapsFor } from './types.js';

/** Counts at their limits, items at theirs, repeats; and what a careless page or server makes of a list. */
export const lists: Criterion = (context) => listFields(context.model).flatMap((field) => casesOf(context, field));

function casesOf(context: Context, field: KnownField): readonly Draft[] {
  const { path, item, facets } = field;
  if (item === null) return [];
  const about = (facet: string, reason: string) => ({ constraint: facetOf(context, path, facet), reason });
  const base = valueAt(context.base, path);
  const items: readonly Value[] = Array.isArray(base) ? base : [];
  const ofLength = (length: number): Value => Array.from({ length }, (_, at) => itemLike(item, items, at));
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
    ...(isScalar(item) ? itemEdges(context, path, item, items) : []),
    ...(['json', 'row'] as const).map((wire) =>
      rawEntry(context, wire, path, 'x', about('type', 'text instead of a list')),
    ),
    rawEntry(context, 'json', path, {}, about('type', 'an object instead of a list')),
    rawEntry(context, 'json', path, null, about('type', 'null')),
    ...itemTraps(context, path, item, items),
  ];
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

/** What is near the grammar of an item and not in it, in place of the last one. */
function itemTraps(context: Context, path: string, item: KnownField, items: readonly Value[]): readonly Draft[] {
  const last = items.at(-1) ?? sampleOf(item, 0);
  const before = items.slice(0, -1);
  const name = `${formName(path)}[${before.length}]`;
  const put = (wire: Wire, raw: unknown, facet: string, reason: string): Draft => {
    const about = { constraint: facetOf(context, item.path, facet), reason: `${reason}, in an entry` };
    if (wire !== 'form') return rawEntry(context, wire, path, [...before, raw], about);
    return { ...about, wire, input: { ...carried(context, context.base, wire), [name]: raw } };
  };
  const missing = [put('json', null, 'required', 'null'), put('row', null, 'required', 'NULL')];
  const blank = isScalar(item) ? missing : [put('json', null, 'type', 'null')];
  if (!isScalar(item)) {
    return [
      ...blank,
      put('json', 'x', 'type', 'text'),
      put('json', [], 'type', 'a list'),
      ...innerFields(context, path, item, items),
    ];
  }
  const traps = wires.flatMap((wire) =>
    trapsFor(item, last, wire).map(([raw, reason]) => put(wire, raw, 'type', reason)),
  );
  if (!isTrimmed(item)) return [...blank, ...traps];
  return [
    ...blank,
    ...traps,
    ...wires.map((wire) => put(wire, ` ${last} `, 'canonical', 'spaces around it')),
    ...wires.map((wire) => put(wire, `${last}\nx`, 'lines', 'a line feed inside')),
  ];
}

/** The fields of an entry that is a record: each missing, each near its grammar and at its edges, in the last entry. */
function innerFields(context: Context, path: string, item: KnownField, items: readonly Value[]): readonly Draft[] {
  const last = items.at(-1);
  if (item.fields === null || typeof last !== 'object' || last === null) return [];
  const record = last as { readonly [name: string]: Value };
  const before = items.slice(0, -1);
  return Object.values(item.fields)
    .filter(isScalar)
    .flatMap((field) => {
      const about = (facet: string, reason: string) => {
        return { constraint: facetOf(context, field.path, facet), reason: `${reason}, in an entry` };
      };
      const name = `${formName(path)}[${before.length}][${field.name}]`;
      const put = (wire: Wire, raw: unknown, facet: string, reason: string): Draft => {
        if (wire !== 'form')
          return rawEntry(context, wire, path, [...before, { ...record, [field.name]: raw }], about(facet, reason));
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
            { [path]: [...before, { ...record, [field.name]: edge.value }] },
            about(edge.facet, edge.words),
          ),
        ),
        ...(isTrimmed(field)
          ? (['json', 'form'] as const).map((wire) => put(wire, `${value}\nx`, 'lines', 'a line feed inside'))
          : []),
      ];
    });
}

/** Each edge of the item's own kind, as the last item. */
function itemEdges(context: Context, path: string, item: KnownField, items: readonly Value[]): readonly Draft[] {
  return edgesOf(item).flatMap(({ facet, value, words }) => {
    const about = { constraint: facetOf(context, item.path, facet), reason: `${words}, in an entry` };
    return changed(context, { [path]: [...items.slice(0, -1), value] }, about, wires);
  });
}

function itemLike(item: KnownField, items: readonly Value[], at: number): Value {
  if (item.fields !== null) {
    return Object.fromEntries(Object.values(item.fields).map((field) => [field.name, itemLike(field, [], at + 3)]));
  }
  return item.item !== null ? [] : (items[at] ?? sampleOf(item, at + 3));
}
