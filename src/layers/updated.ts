import type { Schema } from '../core/declare/index.js';
import type { Case, Row } from '../core/model/index.js';
import type { Connection } from '../server/connections/index.js';
import { insertRows, RowRefused } from '../server/insert.js';
import { placeIn } from '../server/place.js';
import { readRows, storedRecord } from '../server/read-records.js';
import { type RowToWrite, rowsOf } from '../server/rows.js';
import { updateRows } from '../server/update.js';
import type { GivenKeys } from './given-keys.js';
import { modelOf, rowFor } from './layer.js';

/** What became of an update: the record as it is stored then, the row that was refused, or why there was none to change. */
export type Updated =
  | { readonly record: Row }
  | { readonly error: unknown; readonly row: RowToWrite }
  | { readonly unstored: unknown };

/**
 * Stores the record that a case changes, and changes it.
 *
 * @param row what it is changed to, with the keys that the tables gave
 */
export async function updated(
  connection: Connection,
  schema: Schema,
  one: Case,
  row: RowToWrite,
  keys: GivenKeys,
): Promise<Updated> {
  const model = modelOf(one.ruleset, schema);
  const existing = keys.toTable(model, one.existing ?? {}) as Row;
  const place = placeIn(connection, schema, model);
  const keyName = place.root.key[0]?.name ?? '';
  let key: string | number;
  try {
    const [first] = await insertRows(connection, await rowsOf(model, existing, schema, connection.engine));
    key = first?.columns?.[keyName] as string | number;
  } catch (error) {
    return { unstored: error };
  }
  try {
    const handed = keys.toTable(model, rowFor(one, schema) ?? {});
    await updateRows(place, key, await rowsOf(model, existing, schema, connection.engine), row);
    const own = row.columns.find(({ name }) => name === keyName)?.value ?? key;
    const [found] = await readRows(connection, model, place.whereKey(1), [own]);
    if (found === undefined) return { record: {} };
    const record = { ...storedRecord(model, schema, connection, found), ...heldByServer(model, handed) };
    return { record: keys.fromTable(model, record) };
  } catch (error) {
    return error instanceof RowRefused ? { error: error.cause, row: error.row } : { error, row };
  }
}

/** What only the server has of a record: it is in no column, and is what the server hands on. */
export function heldByServer({ fields }: Schema[number], handed: { readonly [name: string]: unknown }): Row {
  const elsewhere = Object.values(fields).filter(
    ({ enforcedIn, name }) => !enforcedIn.includes('database') && Object.hasOwn(handed, name),
  );
  return Object.fromEntries(elsewhere.map(({ name }) => [name, handed[name] as Row[string]]));
}
