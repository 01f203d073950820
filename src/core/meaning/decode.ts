import { decodeValue, kindOf, valueField } from '../kinds/index.js';
import type { Field, Model, Value, Wire } from '../model/index.js';
import { readForm } from './form.js';
import type { ReadBy, Taken } from './judged-by.js';
import { isOverLimits, mostItems, mostKeys, mostNames } from './limits.js';

/** How a record came off a wire: by pointer, what could not be read. */
export interface Decoding {
  /** Given outside the grammar of their kind. */
  readonly refused: ReadonlySet<string>;
  /** Larger than the limits allow, and so not read. */
  readonly over: ReadonlySet<string>;
  /** Keys that are not declared, by the pointer of the record that they are in. */
  readonly unknownKeys: ReadonlyMap<string, readonly string[]>;
  /** Keys that were not there: where a default goes. */
  readonly missing: ReadonlySet<string>;
}

/** The same with what was read: values in the shape of the record. */
export interface Decoded extends Decoding {
  readonly values: { readonly [name: string]: Value };
}

interface Reading {
  readonly wire: Wire;
  readonly by: ReadBy;
  /** These are made once there is something in them: of most records there is nothing. */
  refused: Set<string> | null;
  over: Set<string> | null;
  unknownKeys: Map<string, readonly string[]> | null;
  missing: Set<string> | null;
}
type Given = { readonly [name: string]: unknown };

export function isRecord(input: unknown): input is Given {
  return typeof input === 'object' && input !== null && !Array.isArray(input);
}

/** The names of a form in the shape of the record, or what came in itself where it is in that shape already. */
export function shaped(model: Model, input: unknown, wire: Wire): { tree: unknown; unknownNames: readonly string[] } {
  if (wire !== 'form' || !isRecord(input) || Object.keys(input).length > mostNames)
    return { tree: input, unknownNames: [] };
  return readForm(model.fields, input);
}

/**
 * Step one: turns what a wire carries into values. Nothing is repaired: what is not in the grammar is refused.
 *
 * @param tree in the shape of the record; on the form wire, with a list of entries for each value
 * @param by what is read of it
 */
export function decode(
  model: Model,
  tree: unknown,
  wire: Wire,
  by: ReadBy,
  unknownNames: readonly string[] = [],
): Decoded {
  const reading = readingOf(wire, by);
  const values = decodeRecord(model.fields, tree, '', reading);
  const names = unknownNames.filter((name) => !by.ignored.has(name));
  if (names.length > 0) noteUnknown(reading, '', names);
  return { ...decodingFrom(reading, model), values };
}

/** A field at the top by itself: what it holds, and what of it could not be read. */
export function decodeAlone(
  { field, pointer }: Taken,
  given: unknown,
  wire: Wire,
  by: ReadBy,
  model: Model,
): { readonly value: Value; readonly decoding: Decoding } {
  const reading = readingOf(wire, by);
  const value = decodeField(field, given, pointer, reading);
  return { value, decoding: decodingFrom(reading, model) };
}

function decodingFrom({ refused, over, missing, unknownKeys }: Reading, { undeclared }: Model): Decoding {
  return {
    refused: refused ?? NONE,
    over: over ?? NONE,
    missing: missing ?? NONE,
    unknownKeys: undeclared === 'drop' ? NO_KEYS : (unknownKeys ?? NO_KEYS),
  };
}

const NONE: ReadonlySet<string> = new Set<string>([]);
const NO_KEYS: ReadonlyMap<string, readonly string[]> = new Map<string, readonly string[]>([]);

function readingOf(wire: Wire, by: ReadBy): Reading {
  return { wire, by, refused: null, over: null, unknownKeys: null, missing: null };
}

function noted(reading: Reading, what: 'refused' | 'over' | 'missing', pointer: string): void {
  reading[what] ??= new Set();
  reading[what].add(pointer);
}

function noteUnknown(reading: Reading, pointer: string, keys: readonly string[]): void {
  reading.unknownKeys ??= new Map();
  reading.unknownKeys.set(pointer, keys);
}

function decodeRecord(fields: Model['fields'], given: unknown, pointer: string, reading: Reading) {
  let record: Given = {};
  let keys: readonly string[] = [];
  const top = pointer === '';
  if (isRecord(given)) {
    const own = Object.keys(given);
    if (own.length > (top && reading.wire === 'form' ? mostNames : mostKeys(fields))) noted(reading, 'over', pointer);
    else [record, keys] = [given, own];
  } else if (top || (given !== undefined && given !== null)) noted(reading, 'refused', pointer);
  const { by } = reading;
  const names = by.names.get(fields);
  const isUnknown = (key: string) => names?.has(key) !== true && !(top && by.ignored.has(key));
  const unknownKeys = keys.filter(isUnknown);
  if (unknownKeys.length > 0) noteUnknown(reading, pointer, unknownKeys);
  const taken = by.taken.get(fields) ?? [];
  // Of what could not be read, nothing is known: not even what a missing key would mean.
  if (reading.refused?.has(pointer) === true || reading.over?.has(pointer) === true)
    return nothingOf(taken.map(({ field }) => field));
  const values: { [name: string]: Value } = {};
  for (const { field, pointer: within } of taken) {
    const own = Object.hasOwn(record, field.name) ? record[field.name] : undefined;
    values[field.name] = decodeField(field, own, pointer + within, reading);
  }
  return values;
}

function nothingOf(fields: readonly Field[]): { readonly [name: string]: Value } {
  return Object.fromEntries(fields.map((field) => [field.name, emptyOf(field)]));
}

function emptyOf({ fields, item }: Field): Value {
  return fields !== null ? nothingOf(Object.values(fields)) : item !== null ? [] : null;
}

function decodeField(field: Field, given: unknown, pointer: string, reading: Reading): Value {
  if (field.fields !== null) return decodeRecord(field.fields, given, pointer, reading);
  if (field.item !== null) return decodeItems(field, field.item, given, pointer, reading);
  if (isMissing(given, reading.wire)) noted(reading, 'missing', pointer);
  const { value, over } = reading.wire === 'form' ? fromForm(field, given) : decoded(field, given, reading.wire);
  if (over === true) noted(reading, 'over', pointer);
  else if (value === undefined) noted(reading, 'refused', pointer);
  return value ?? null;
}

function decodeItems(field: Field, item: Field, given: unknown, pointer: string, reading: Reading): Value {
  if (given === undefined || given === null) return [];
  if (!Array.isArray(given)) noted(reading, 'refused', pointer);
  else if (given.length > mostItems(field)) noted(reading, 'over', pointer);
  else return given.map((one, index) => decodeField(item, one, `${pointer}/${index}`, reading));
  return [];
}

function isMissing(given: unknown, wire: Wire): boolean {
  return given === undefined || (wire === 'form' && Array.isArray(given) && given.length === 0);
}

/** Undefined: refused. */
interface Read {
  readonly value: Value | undefined;
  readonly over?: true;
}

/** A form sends text, once or several times; the empty text is absent for every kind. */
function fromForm(field: Field, given: unknown): Read {
  const entries: readonly unknown[] = Array.isArray(given) ? given : given === undefined ? [] : [given];
  if (entries.length === 0) return { value: kindOf(field).whenMissingFromForm(field) };
  if (entries.length > 1 && !kindOf(valueField(field)).lastEntryCounts) return { value: undefined };
  const entry = entries.at(-1);
  return entry === '' ? { value: null } : decoded(field, entry, 'form');
}

function decoded(field: Field, given: unknown, wire: Wire): Read {
  if (given === undefined || given === null) return { value: wire === 'form' ? undefined : null };
  if (typeof given === 'string' && isOverLimits(field, given)) return { value: undefined, over: true };
  const result = decodeValue(field, given, wire);
  return { value: 'value' in result ? result.value : undefined };
}
