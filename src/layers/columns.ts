import type { Schema } from '../core/declare/index.js';
import type { KnownField } from '../core/kinds/index.js';
import { storedRow } from '../core/meaning/index.js';
import { isSent, type Row, type Value, valueAt } from '../core/model/index.js';
import { storedFields } from '../core/targets/index.js';

type Model = Schema[number];
type Raw = { readonly [name: string]: unknown };

/** A record as the values that a driver binds, by column: records taken apart, lists as JSON, what is worked out added. */
export async function bindings(
  model: Model,
  row: Raw,
): Promise<readonly { readonly column: string; readonly value: unknown }[]> {
  const made = await madeOf(model, row);
  return storedFields(model).flatMap((field) => {
    const [top = ''] = field.path.split('.');
    if (Object.hasOwn(made, field.path)) return [{ column: field.column, value: made[field.path] ?? null }];
    if (!isSent(field) || !Object.hasOwn(row, top)) return [];
    const value: unknown = valueAt(row as Row, field.path);
    return [{ column: field.column, value: field.item === null ? value : JSON.stringify(value ?? []) }];
  });
}

/** What the server makes of a record: derived fields, and secrets as they are stored. */
async function madeOf(model: Model, row: Raw): Promise<Row> {
  const fields = Object.values(model.fields);
  const made = fields.filter(
    (field) => field.derivation !== null || fields.some(({ storedAs }) => storedAs === field.name),
  );
  if (made.length === 0) return {};
  // A row that breaks its own rules may have nothing that can be made.
  const stored = await storedRow(model, row as Row).catch((): Row => ({}));
  return Object.fromEntries(made.map(({ name }) => [name, stored[name] ?? null]));
}

/**
 * The record that columns hold, of the fields that somebody sends; those that have no column are as they were sent.
 *
 * @param read a column's value in the form that its kind has; lists are JSON text before
 */
export function recordFrom(model: Model, sent: Raw, read: (field: KnownField) => Value): Row {
  return fieldsFrom(model.fields, sent, read);
}

function fieldsFrom(fields: Model['fields'], sent: Raw, read: (field: KnownField) => Value): Row {
  const own = Object.values(fields).filter((field) => isSent(field) && field.enforcedIn.includes('server'));
  return Object.fromEntries(own.map((field) => [field.name, valueFrom(field, sent[field.name], read)]));
}

function valueFrom(field: KnownField, sent: unknown, read: (field: KnownField) => Value): Value {
  if (field.fields !== null) {
    const record = fieldsFrom(field.fields, typeof sent === 'object' && sent !== null ? (sent as Raw) : {}, read);
    return field.optional && isEmpty(record) ? null : record;
  }
  return field.enforcedIn.includes('database') ? read(field) : ((sent ?? null) as Value);
}

function isEmpty(record: Row): boolean {
  return Object.values(record).every((value) => value === null || (Array.isArray(value) && value.length === 0));
}

/** A list's column back as a list. */
export function listFrom(text: unknown): Value {
  try {
    return typeof text === 'string' ? (JSON.parse(text) as Value) : ((text ?? []) as Value);
  } catch {
    return String(text);
  }
}
