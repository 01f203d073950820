import { edgesOf, isScalar, isTrimmed, type KnownField, sampleOf, targetOf, valueField } from '../kinds/index.js';
import { formName, type Path, type Pattern, type Row, type Value, type Wire, wires } from '../model/index.js';
import { nearMisses, transitionWords } from '../reason/index.js';
import { candidatesOf } from './candidates.js';
import { applied, brokenRules, type Context, carried, changed, type Draft, facetOf, rawEntry } from './context.js';
import { keysIn, storedKeys } from './references.js';
import { oddSpellings } from './spellings.js';
import { trapsFor } from './traps.js';
import { inTwo } from './white-space.js';

/** A list of a record, and the entry in it that is changed. */
export interface Entries {
  readonly path: Path;
  readonly item: KnownField;
  readonly items: readonly Value[];
  readonly at: number;
}

/** Where a value stands in an entry: the entry itself, or a field of an entry that is a record. */
interface Slot {
  readonly field: KnownField;
  readonly value: Value;
  /** The form's name of it. */
  readonly name: string;
  /** The list with something else there. */
  holding(raw: unknown): readonly unknown[];
}

/** So many texts of an entry's pattern are tried, and so many near misses. */
const MOST_WORDS = 8;
const MOST_MISSES = 32;
/** Keys of rows that are not stored are made from this seed. */
const UNSTORED = 80;

/** Whatever is tried of one value by itself, in an entry of a list; `only` on one wire, where that is told. */
export function entryCases(context: Context, entries: Entries, only: Wire | null = null): readonly Draft[] {
  const drafts = [
    ...(isScalar(entries.item) ? [] : wholeEntries(context, entries)),
    ...slotsOf(entries).flatMap((slot) => [
      ...missing(context, entries, slot),
      ...traps(context, entries, slot),
      ...spellings(context, entries, slot),
      ...edges(context, entries, slot),
      ...patterns(context, entries, slot),
      ...unstored(context, entries, slot),
    ]),
  ];
  return only === null ? drafts : drafts.filter(({ wire }) => wire === only);
}

function slotsOf({ path, item, items, at }: Entries): readonly Slot[] {
  const entry = items[at];
  const put = (raw: unknown) => [...items.slice(0, at), raw, ...items.slice(at + 1)];
  const name = `${formName(path)}[${at}]`;
  if (isScalar(item)) return [{ field: item, value: entry ?? sampleOf(item, 0), name, holding: put }];
  if (item.fields === null || typeof entry !== 'object' || entry === null) return [];
  const record = entry as Row;
  return Object.values(item.fields)
    .filter(isScalar)
    .map((field) => ({
      field,
      value: record[field.name] ?? sampleOf(field, 0),
      name: `${name}[${field.name}]`,
      holding: (raw: unknown) => put({ ...record, [field.name]: raw }),
    }));
}

/** A key that fits, of a row that is not stored. */
function unstored(context: Context, entries: Entries, slot: Slot): readonly Draft[] {
  const to = targetOf(slot.field);
  if (to === null) return [];
  const stored = storedKeys(context, to);
  const others = [...keysIn(context.otherBefore, to), ...candidatesOf(slot.field, UNSTORED, context.grammars)];
  const missing = others.find((one) => one !== null && !stored.includes(one));
  if (missing === undefined) return [];
  const { before } = context;
  return given(context, entries, slot, missing, 'reference', `the ${to.to} it names is not stored`).map((draft) => ({
    ...draft,
    before,
  }));
}

function aboutSlot(context: Context, { field }: Slot, facet: string, reason: string) {
  return { constraint: facetOf(context, field.path, facet), reason: `${reason}, in an entry` };
}

/** A raw value there, whatever it is. */
function put(context: Context, { path }: Entries, slot: Slot, wire: Wire, raw: unknown, facet: string, reason: string) {
  const about = aboutSlot(context, slot, facet, reason);
  if (wire !== 'form') return rawEntry(context, wire, path, slot.holding(raw), about);
  return {
    ...about,
    wire,
    input: { ...carried(context, context.base, wire), [slot.name]: raw },
    before: context.before,
  };
}

/** A canonical value there, on every wire. */
function given(context: Context, entries: Entries, slot: Slot, value: Value, facet: string, reason: string) {
  const about = aboutSlot(context, slot, facet, reason);
  return changed(context, { [entries.path]: withRoom(context, entries, slot, value, about.constraint) }, about);
}

/**
 * The list with a value there; where that breaks another rule than the one that it is about, with another value of the
 * same entry changed too, so that a refusal has one reason.
 */
function withRoom(context: Context, { path, item, at }: Entries, slot: Slot, value: Value, about: string): Value {
  const plain = slot.holding(value) as readonly Value[];
  const faults = (list: Value) => {
    const row = context.settle(applied(context.base, { [path]: list }), [path], about);
    return brokenRules(context, row).filter((rule) => rule !== about);
  };
  const beside = Object.values(item.fields ?? {}).filter((field) => isScalar(field) && field !== slot.field);
  if (beside.length === 0 || faults(plain).length === 0) return plain;
  const others = beside.flatMap((field) =>
    [...(field.optional ? [null] : []), ...[0, 1, 2].map((seed) => sampleOf(field, seed))].map((other) =>
      plain.map((one, index): Value => (index === at ? { ...(one as Row), [field.name]: other } : one)),
    ),
  );
  return others.find((list) => faults(list).length === 0) ?? plain;
}

/** What is no record, in place of an entry that is one. */
function wholeEntries(context: Context, { path, item, items, at }: Entries): readonly Draft[] {
  const raws = [
    [null, 'null'],
    ['x', 'text'],
    [[], 'a list'],
  ] as const;
  return raws.map(([raw, reason]) => {
    const about = { constraint: facetOf(context, item.path, 'type'), reason: `${reason}, in an entry` };
    return rawEntry(context, 'json', path, [...items.slice(0, at), raw, ...items.slice(at + 1)], about);
  });
}

function missing(context: Context, entries: Entries, slot: Slot): readonly Draft[] {
  const of = (wire: Wire, raw: unknown, facet: string, reason: string) =>
    put(context, entries, slot, wire, raw, facet, reason);
  return [
    ...given(context, entries, slot, null, 'required', 'nothing given'),
    of('json', null, 'required', 'null'),
    of('row', null, 'required', 'NULL'),
    of('form', '', 'required', 'the empty text'),
    ...(isTrimmed(slot.field)
      ? [
          of('json', '', 'required', 'the empty text'),
          of('json', '  ', 'required', 'spaces only'),
          of('row', '', 'canonical', 'the empty text'),
        ]
      : []),
  ];
}

/** What is near the grammar of a value and not in it. */
function traps(context: Context, entries: Entries, slot: Slot): readonly Draft[] {
  return wires.flatMap((wire) =>
    trapsFor(slot.field, slot.value, wire).map(([raw, reason]) =>
      put(context, entries, slot, wire, raw, 'type', reason),
    ),
  );
}

/** White space around a text and line ends in it, and texts that are others once they are in canonical form. */
function spellings(context: Context, entries: Entries, slot: Slot): readonly Draft[] {
  const { field, value } = slot;
  const odd = oddSpellings(context, field).flatMap(({ text, facet, words }) =>
    wires.map((wire) => put(context, entries, slot, wire, text, facet, words)),
  );
  if (!isTrimmed(field)) return odd;
  return [
    ...odd,
    ...wires.flatMap((wire) => [
      put(context, entries, slot, wire, ` ${value} `, 'canonical', 'spaces around it'),
      put(
        context,
        entries,
        slot,
        wire,
        `\u00a0${value}\ufeff`,
        'canonical',
        'a no-break space before it and a byte order mark behind it',
      ),
      put(context, entries, slot, wire, inTwo(field, String(value), '\n'), 'lines', 'a line feed inside'),
      put(context, entries, slot, wire, `${value}\n`, 'canonical', 'a line feed behind it'),
    ]),
  ];
}

/** Each edge of the kind of value. */
function edges(context: Context, entries: Entries, slot: Slot): readonly Draft[] {
  return edgesOf(slot.field).flatMap(({ facet, value, words }) => given(context, entries, slot, value, facet, words));
}

/** Texts of the pattern and near misses of it. */
function patterns(context: Context, entries: Entries, slot: Slot): readonly Draft[] {
  const pattern = valueField(slot.field).facets.pattern as Pattern | undefined;
  const routes = pattern == null ? null : context.grammars.routesOf(pattern);
  if (routes === null) return [];
  const { misses, left } = nearMisses(routes, MOST_MISSES);
  context.leaveOut(facetOf(context, slot.field.path, 'pattern'), left);
  const words = transitionWords(routes, MOST_WORDS).filter((word) => word !== '');
  return [
    ...words.flatMap((text) => given(context, entries, slot, text, 'pattern', 'a text of the pattern')),
    ...misses.flatMap(({ text, words: reason }) => given(context, entries, slot, text, 'pattern', reason)),
  ];
}
