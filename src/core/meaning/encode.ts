import { encodeValue } from '../kinds/index.js';
import type { Field, Model, Row, Value, Wire } from '../model/index.js';

type Encoded = { [name: string]: Value };

/**
 * The one spelling of a canonical record on a wire; decoding it gives the record back. Absent fields are left out. On the
 * form wire records and lists are spelled in brackets: `shelf[bay]`, `helpers[0]`.
 */
export function encode(model: Model, row: Row, wire: Wire): Encoded {
  if (wire === 'form') return Object.fromEntries(formEntries(model.fields, row, (name) => name));
  return encodedRecord(model.fields, row, wire);
}

function encodedRecord(fields: Model['fields'], row: Row, wire: Wire): Encoded {
  const given = Object.entries(row).filter(([name, value]) => value !== null && Object.hasOwn(fields, name));
  return Object.fromEntries(given.map(([name, value]) => [name, encodedField(fields[name] as Field, value, wire)]));
}

function encodedField(field: Field, value: Value, wire: Wire): Value {
  const { fields, item } = field;
  if (fields !== null) return encodedRecord(fields, value as Row, wire);
  if (item !== null) return (value as readonly Value[]).map((one) => encodedField(item, one, wire));
  return encodeValue(field, value, wire);
}

type Entries = readonly (readonly [name: string, value: Value])[];

function formEntries(fields: Model['fields'], row: Row, nameOf: (name: string) => string): Entries {
  return Object.entries(row).flatMap(([name, value]): Entries => {
    const field = Object.hasOwn(fields, name) ? fields[name] : undefined;
    return value === null || field === undefined ? [] : fieldEntries(field, value, nameOf(name));
  });
}

function fieldEntries(field: Field, value: Value, name: string): Entries {
  const { fields, item } = field;
  if (fields !== null) return formEntries(fields, value as Row, (inner) => `${name}[${inner}]`);
  if (item !== null) {
    return (value as readonly Value[]).flatMap((one, index) => fieldEntries(item, one, `${name}[${index}]`));
  }
  return [[name, encodeValue(field, value, 'form')]];
}
