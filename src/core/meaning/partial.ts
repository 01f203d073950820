import { canonicalValue, decodeValue, encodeValue, itemKeyOf, kindOf } from '../kinds/index.js';
import { type Field, isSent, type Model, pointerToKey, type Row, type Value, type Wire } from '../model/index.js';
import { isRecord } from './decode.js';

/** What a partial update sends, by pointer. `complete` where the stored record is known beside it. */
export interface Sent {
  readonly complete: boolean;
  has(pointer: string): boolean;
}

/** A partial update with the stored record under it, in the shape of the record, and what of it was sent. */
export interface Merged {
  readonly tree: unknown;
  readonly sent: Sent;
}

interface Merging {
  readonly wire: Wire;
  /** The stored record is known. */
  readonly known: boolean;
  /** Sent itself; sent with all that is in it. */
  readonly exact: Set<string>;
  readonly whole: Set<string>;
}
type Given = { readonly [name: string]: unknown };

/**
 * Puts a partial update over the stored record: a missing key is unchanged, null is cleared, in records too. A list that
 * is sent replaces the list, but an item whose key is a stored one's is put over that item.
 *
 * @param existing the stored record in canonical form; null where it is not known
 */
export function merge(model: Model, tree: unknown, existing: Row | null, wire: Wire): Merged {
  const merging: Merging = { wire, known: existing !== null, exact: new Set(), whole: new Set() };
  const merged = isRecord(tree) ? mergeRecord(model.fields, tree, existing, '', merging) : tree;
  const has = (pointer: string) => {
    if (merging.exact.has(pointer) || merging.whole.has(pointer)) return true;
    for (const one of merging.whole) if (pointer.startsWith(`${one}/`)) return true;
    return false;
  };
  return { tree: merged, sent: { complete: existing !== null, has } };
}

function mergeRecord(fields: Model['fields'], given: Given, existing: Row | null, pointer: string, merging: Merging) {
  const merged: { [name: string]: unknown } = { ...given };
  for (const field of Object.values(fields).filter(isSent)) {
    const stored = existing !== null && Object.hasOwn(existing, field.name) ? (existing[field.name] ?? null) : null;
    const at = pointer + pointerToKey(field.name);
    if (Object.hasOwn(given, field.name) && given[field.name] !== undefined)
      merged[field.name] = mergeField(field, given[field.name], stored, at, merging);
    else if (stored !== null) merged[field.name] = rawOf(field, stored, merging.wire);
  }
  return merged;
}

function mergeField(field: Field, given: unknown, stored: Value, pointer: string, merging: Merging): unknown {
  if (field.fields !== null && isRecord(given)) {
    merging.exact.add(pointer);
    // What was not there before must be whole.
    if (stored === null && field.optional && merging.known) merging.whole.add(pointer);
    return mergeRecord(field.fields, given, stored as Row | null, pointer, merging);
  }
  merging.whole.add(pointer);
  const { item } = field;
  const key = itemKeyOf(field);
  if (item === null || key === null || item.fields === null || !Array.isArray(given)) return given;
  const { fields } = item;
  const byKey = new Map<Value | undefined, Row>();
  for (const row of Array.isArray(stored) ? (stored as readonly Row[]) : [])
    if (!byKey.has(row[key])) byKey.set(row[key], row);
  return given.map((one) => {
    const match = isRecord(one) ? byKey.get(keyIn(one, fields[key] as Field, merging.wire)) : null;
    const apart: Merging = { ...merging, exact: new Set(), whole: new Set() };
    return isRecord(one) && match != null ? mergeRecord(fields, one, match, '', apart) : one;
  });
}

/** The canonical key of an item as it was sent; undefined, which no stored one is, where it is none. */
function keyIn(item: Given, field: Field, wire: Wire): Value | undefined {
  const given = Object.hasOwn(item, field.name) ? item[field.name] : undefined;
  const one = wire === 'form' && Array.isArray(given) ? given.at(-1) : given;
  if (one === undefined || one === null || one === '') return undefined;
  const decoded = decodeValue(field, one, wire);
  return 'value' in decoded ? (canonicalValue(field, decoded.value) ?? undefined) : undefined;
}

/** A stored value as the wire would have brought it. */
function rawOf(field: Field, value: Value, wire: Wire): unknown {
  if (value === null) return null;
  if (field.fields !== null) {
    const record = value as Row;
    const known = Object.values(field.fields).filter(
      ({ name }) => Object.hasOwn(record, name) && record[name] !== null,
    );
    return Object.fromEntries(known.map((inner) => [inner.name, rawOf(inner, record[inner.name] ?? null, wire)]));
  }
  const { item } = field;
  if (item !== null) return (value as readonly Value[]).map((one) => rawOf(item, one, wire));
  const encoded = encodeValue(field, value, wire);
  return wire === 'form' ? [encoded] : encoded;
}

/**
 * What a form that showed some fields only did not send: an unticked box of one that it showed is false, and a list is
 * empty. Every other missing name is unchanged.
 */
export function withShown(model: Model, tree: unknown, shown: readonly string[]): unknown {
  if (!isRecord(tree)) return tree;
  const added: { [name: string]: unknown } = { ...tree };
  for (const path of shown) addShown(model.fields, added, path.split('.'));
  return added;
}

/** A form shows no secret that is stored: one that is sent blank is not sent, and stays as it is. */
export function withoutBlankSecrets({ fields }: Model, tree: unknown): unknown {
  if (!isRecord(tree)) return tree;
  const isBlank = (entries: unknown) => [entries].flat().every((entry) => entry === '');
  const isKept = ([name, entries]: readonly [string, unknown]) =>
    !(Object.hasOwn(fields, name) && fields[name]?.concealed === true && isBlank(entries));
  return Object.fromEntries(Object.entries(tree).filter(isKept));
}

function addShown(fields: Model['fields'], tree: { [name: string]: unknown }, [name = '', ...rest]: readonly string[]) {
  const field = Object.hasOwn(fields, name) ? fields[name] : undefined;
  if (field === undefined || !isSent(field)) return;
  if (field.fields !== null) {
    const before = tree[name];
    if (before !== undefined && !isRecord(before)) return;
    const inner: { [name: string]: unknown } = { ...before };
    const names = rest.length > 0 ? [rest] : Object.keys(field.fields).map((one) => [one]);
    for (const steps of names) addShown(field.fields, inner, steps);
    if (Object.keys(inner).length > 0) tree[name] = inner;
  } else if (!Object.hasOwn(tree, name)) {
    const missing = field.item !== null ? [] : kindOf(field).whenMissingFromForm(field);
    if (missing !== null) tree[name] = field.item !== null ? [] : [String(missing)];
  }
}
