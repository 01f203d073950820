import { decodeValue, kindOf, valueField } from '../kinds/index.js';
import type { Field, Model, Path, Value, Wire } from '../model/index.js';

/** A record as it came off a wire: values by field, and what could not be read. */
export interface Decoding {
  readonly values: ReadonlyMap<Path, Value>;
  /** Fields given outside the grammar of their kind; '' is the record itself. */
  readonly refused: ReadonlySet<Path>;
  readonly strangeKeys: readonly string[];
}

/** Step one: turns what a wire carries into values. Nothing is repaired: what is not in the grammar is refused. */
export function decode(model: Model, input: unknown, wire: Wire): Decoding {
  const values = new Map<Path, Value>();
  const refused = new Set<Path>();
  if (typeof input !== 'object' || input === null || Array.isArray(input)) {
    return { values, refused: new Set(['']), strangeKeys: [] };
  }
  const record = input as { readonly [name: string]: unknown };
  for (const field of Object.values(model.fields)) {
    const given = Object.hasOwn(record, field.path) ? record[field.path] : undefined;
    const value = wire === 'form' ? fromForm(field, given) : fromTyped(field, given, wire);
    if (value === undefined) refused.add(field.path);
    else values.set(field.path, value);
  }
  return { values, refused, strangeKeys: Object.keys(record).filter((key) => !Object.hasOwn(model.fields, key)) };
}

/** A form sends text, once or several times; the empty text is absent for every kind. Undefined: refused. */
function fromForm(field: Field, given: unknown): Value | undefined {
  const entries = given === undefined || given === null ? [] : Array.isArray(given) ? given : [given];
  if (entries.length === 0) return kindOf(field).whenMissingFromForm(field);
  if (entries.length > 1 && !kindOf(valueField(field)).lastEntryCounts) return undefined;
  const entry: unknown = entries.at(-1);
  return entry === '' ? null : decoded(field, entry, 'form');
}

function fromTyped(field: Field, given: unknown, wire: 'json' | 'row'): Value | undefined {
  return given === undefined || given === null ? null : decoded(field, given, wire);
}

function decoded(field: Field, given: unknown, wire: Wire): Value | undefined {
  const result = decodeValue(field, given, wire);
  return 'value' in result ? result.value : undefined;
}
