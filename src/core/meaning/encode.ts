import { encodeValue } from '../kinds/index.js';
import type { Field, Model, Row, Value, Wire } from '../model/index.js';
import { isRecord } from './decode.js';

type Encoded = { [name: string]: Value };

/**
 * The one spelling of a canonical record on a wire; decoding it gives the record back. Absent fields are left out, but
 * where a default would fill them: they are null then, and on the form wire empty. There records and lists are spelled in brackets: `shelf[bay]`, `helpers[0]`.
 */
export function encode(model: Model, row: Row, wire: Wire): Encoded {
  if (wire === 'form') return Object.fromEntries(formEntries(model.fields, row, (name) => name));
  return encodedRecord(model.fields, row, wire);
}

function encodedRecord(fields: Model['fields'], row: Row, wire: Wire): Encoded {
  const given = Object.entries(row).filter(([name, value]) => isWritten(fields, name, value));
  return Object.fromEntries(given.map(([name, value]) => [name, encodedField(fields[name] as Field, value, wire)]));
}

function encodedField(field: Field, value: Value, wire: Wire): Value {
  const { fields, item } = field;
  // What is no value of its field, as a layer may store it, is written as it is.
  if (fields !== null) return isRecord(value) ? encodedRecord(fields, value as Row, wire) : value;
  if (item !== null) return Array.isArray(value) ? value.map((one) => encodedField(item, one, wire)) : value;
  return encodeValue(field, value, wire);
}

function isWritten(fields: Model['fields'], name: string, value: Value): boolean {
  if (!Object.hasOwn(fields, name)) return false;
  return value !== null || fields[name]?.default !== null;
}

type Entries = readonly (readonly [name: string, value: Value])[];

function formEntries(fields: Model['fields'], row: Row, nameOf: (name: string) => string): Entries {
  return Object.entries(row).flatMap(([name, value]): Entries => {
    return isWritten(fields, name, value) ? fieldEntries(fields[name] as Field, value, nameOf(name)) : [];
  });
}

function fieldEntries(field: Field, value: Value, name: string): Entries {
  const { fields, item } = field;
  if (fields !== null) return formEntries(fields, value as Row, (inner) => `${name}[${inner}]`);
  if (item !== null) {
    return (value as readonly Value[]).flatMap((one, index) => fieldEntries(item, one, `${name}[${index}]`));
  }
  return [[name, value === null ? '' : encodeValue(field, value, 'form')]];
}
