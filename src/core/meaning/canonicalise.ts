import { canonicalValue, kindOf } from '../kinds/index.js';
import { type Field, type Model, pointerToKey, type Row, type Value, type Wire } from '../model/index.js';
import type { Decoded, Decoding } from './decode.js';

/** Values in canonical form. On the row wire nothing is changed; what is not canonical there is told. */
export interface Canonical {
  readonly row: Row;
  readonly notCanonical: ReadonlySet<string>;
}

interface Putting {
  readonly decoding: Decoding;
  readonly wire: Wire;
  readonly fills: boolean;
  /** Made once there is something in it. */
  notCanonical: Set<string> | null;
}
type Fields = Model['fields'];
type Values = { [name: string]: Value };

/**
 * Step two: puts each value into its canonical form, and defaults where a key was missing. An optional record of which
 * all is absent is absent itself. Doing it twice gives the same as once.
 *
 * @param fills whether defaults are filled in: for a whole record that is created
 */
export function canonicalise(model: Model, decoding: Decoded, wire: Wire, fills: boolean): Canonical {
  const putting: Putting = { decoding, wire, fills, notCanonical: null };
  const row = filled(model.fields, canonicalRecord(model.fields, decoding.values, '', putting), '', putting);
  return { row, notCanonical: putting.notCanonical ?? NONE };
}

/** One field at the top by itself, as of a whole record that is created. */
export function canonicaliseAlone(
  field: Field,
  read: Value,
  decoding: Decoding,
  wire: Wire,
): { readonly value: Value; readonly notCanonical: ReadonlySet<string> } {
  const putting: Putting = { decoding, wire, fills: true, notCanonical: null };
  const pointer = pointerToKey(field.name);
  const value = filledField(field, canonicalField(field, read, pointer, putting), pointer, putting);
  return { value, notCanonical: putting.notCanonical ?? NONE };
}

const NONE: ReadonlySet<string> = new Set<string>([]);

function noted(putting: Putting, pointer: string): void {
  putting.notCanonical ??= new Set();
  putting.notCanonical.add(pointer);
}

function canonicalRecord(fields: Fields, values: Row, pointer: string, putting: Putting): Values {
  const record: Values = {};
  for (const name of Object.keys(values)) {
    record[name] = canonicalField(fields[name] as Field, values[name] ?? null, pointer + pointerToKey(name), putting);
  }
  return record;
}

function canonicalField(field: Field, value: Value, pointer: string, putting: Putting): Value {
  if (field.fields !== null) {
    const record = canonicalRecord(field.fields, value as Row, pointer, putting);
    return field.optional && isAbsent(field, record, pointer, putting) ? null : record;
  }
  if (field.item !== null) return canonicalItems(field.item, value as readonly Value[], pointer, putting);
  const form = canonicalValue(field, value);
  if (putting.wire !== 'row') return form;
  if (form !== value) noted(putting, pointer);
  return value;
}

function canonicalItems(item: Field, values: readonly Value[], pointer: string, putting: Putting): Value {
  return values.map((one, index) =>
    filledField(item, canonicalField(item, one, `${pointer}/${index}`, putting), `${pointer}/${index}`, putting),
  );
}

/** All of it is absent: an unticked box of a form is not there either, but what could not be read is. */
function isAbsent(field: Field, value: Value, pointer: string, putting: Putting): boolean {
  const { refused, over } = putting.decoding;
  if (refused.has(pointer) || over.has(pointer)) return false;
  if (field.fields !== null && value !== null) {
    return Object.entries(field.fields).every(([name, inner]) =>
      isAbsent(inner, (value as Row)[name] ?? null, pointer + pointerToKey(name), putting),
    );
  }
  if (Array.isArray(value)) return value.length === 0;
  return value === null || (putting.wire === 'form' && value === kindOf(field).whenMissingFromForm(field));
}

/** Defaults for keys that were missing, in all records but the absent ones. */
function filled(fields: Fields, values: Row, pointer: string, putting: Putting): Values {
  const record: Values = {};
  for (const name of Object.keys(values)) {
    record[name] = filledField(fields[name] as Field, values[name] ?? null, pointer + pointerToKey(name), putting);
  }
  return record;
}

function filledField(field: Field, value: Value, pointer: string, putting: Putting): Value {
  if (!putting.fills) return value;
  if (field.fields !== null) return value === null ? null : filled(field.fields, value as Row, pointer, putting);
  return value === null && putting.decoding.missing.has(pointer) ? field.default : value;
}
