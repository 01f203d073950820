import type { AnyRuleset, Schema } from '../core/declare/index.js';
import { decodeValue } from '../core/kinds/index.js';
import type { Row } from '../core/model/index.js';
import { type Table, tablesOf, tableTargets } from '../core/targets/index.js';
import { type Connection, connectionOf, type Handle } from './connections/index.js';
import { insertRows } from './insert.js';
import { readRows, storedRecord } from './read-records.js';
import { type RowToWrite, rowsOf } from './rows.js';
import { modelIn, schemaFor } from './violations.js';
import { type WriteOptions, type Written, write } from './write.js';

export type RecordOptions = Omit<WriteOptions, 'key'>;

interface Place {
  readonly connection: Connection;
  readonly schema: Schema;
  readonly model: Schema[number];
  readonly root: Table;
  /** ` WHERE <key> = <place>`. */
  readonly whereKey: (at: number) => string;
}

function placeOf(handle: Handle, ruleset: AnyRuleset, rulesets: RecordOptions['rulesets']): Place {
  const connection = connectionOf(handle);
  const schema = schemaFor(ruleset, rulesets);
  const model = modelIn(schema, ruleset.name);
  const [root] = tablesOf(model);
  if (root === undefined) throw new Error(`no table for ${ruleset.name}`);
  const { spelling, wire } = tableTargets[connection.engine];
  const key = spelling.name(root.key[0]?.name ?? '');
  return { connection, schema, model, root, whereKey: (at) => ` WHERE ${key} = ${wire.place(at)}` };
}

/** A key as its column holds it; null for what none can be, such as the step of an address that somebody made up. */
function keyIn({ model, root }: Place, key: string | number): string | number | null {
  const holds = root.key[0]?.holds;
  const field = typeof holds === 'object' ? holds : model.key === null ? null : model.fields[model.key];
  if (field == null) return /^-?[0-9]{1,15}$/.test(String(key)) ? key : null;
  const decoded = decodeValue(field, key, typeof key === 'string' ? 'form' : 'json');
  return 'refused' in decoded ? null : (decoded.value as string | number);
}

/** A stored record in canonical form with what the store fills; null where there is none of that key. */
export async function findRecord(
  handle: Handle,
  ruleset: AnyRuleset,
  key: string | number,
  { rulesets }: RecordOptions = {},
): Promise<Row | null> {
  const place = placeOf(handle, ruleset, rulesets);
  const { connection, schema, model, whereKey } = place;
  const known = keyIn(place, key);
  if (known === null) return null;
  const [row] = await readRows(connection, model, whereKey(1), [known]);
  return row === undefined ? null : storedRecord(model, schema, connection, row);
}

/** All stored records in the order of their keys, as `findRecord` gives them. */
export async function listRecords(
  handle: Handle,
  ruleset: AnyRuleset,
  { rulesets }: RecordOptions = {},
): Promise<readonly Row[]> {
  const { connection, schema, model, root } = placeOf(handle, ruleset, rulesets);
  const order = ` ORDER BY ${tableTargets[connection.engine].spelling.name(root.key[0]?.name ?? '')}`;
  const rows = await readRows(connection, model, order, []);
  return rows.map((row) => storedRecord(model, schema, connection, row));
}

/**
 * Puts a checked record in the place of a stored one. Rows of its lists that stay as they are are not touched. A secret
 * that is null stays as it is stored: nobody is shown it, so nobody sends it back.
 *
 * @param key the key of the stored record, as it was before
 * @returns the record as it is stored now, or every rule that it broke and nothing is changed; null where there is none
 */
export async function updateRecord(
  handle: Handle,
  ruleset: AnyRuleset,
  key: string | number,
  record: { readonly [field: string]: unknown },
  options: RecordOptions = {},
): Promise<Written<Row> | null> {
  const place = placeOf(handle, ruleset, options.rulesets);
  const { connection, schema, model } = place;
  if (keyIn(place, key) === null) return null;
  const rows = await rowsOf(model, record, schema, connection.engine);
  const work = async () => {
    const before = await findRecord(handle, ruleset, key, options);
    if (before === null) return null;
    await updateRows(place, rows, key, before, record);
    const own = model.key === null ? key : (record[model.key] as string | number | undefined);
    return findRecord(handle, ruleset, own ?? key, options);
  };
  const written = await write(handle, ruleset, record, work, { ...options, key });
  if (!written.ok) return written;
  return written.value === null ? null : { ok: true, value: written.value };
}

async function updateRows(
  { connection, root, whereKey }: Place,
  { columns, belonging }: RowToWrite,
  key: string | number,
  before: Row,
  after: { readonly [field: string]: unknown },
): Promise<void> {
  const { spelling, wire } = tableTargets[connection.engine];
  const name = root.key[0]?.name ?? '';
  const own = columns.find((column) => column.name === name)?.value ?? key;
  const isSameKey = String(own) === String(key);
  const kept = (row: RowToWrite) =>
    isSameKey && JSON.stringify(partOf(before, row)) === JSON.stringify(partOf(after, row));
  // What is gone or has changed goes before anything new comes: an entry may move to where its like was.
  for (const table of tablesOf(root.model).filter(({ parent }) => parent?.of === '')) {
    const staying = belonging.filter((row) => row.table.of === table.of && kept(row));
    await removeRows(connection, table, key, staying);
  }
  const secrets = Object.values(root.model.fields).filter(
    ({ name, storedAs }) => storedAs !== null && after[name] == null,
  );
  const hidden = secrets.map(({ storedAs }) => root.model.fields[storedAs ?? '']?.column);
  const shown = columns.filter((column) => !hidden.includes(column.name));
  const set = shown.map((column, at) => `${spelling.name(column.name)} = ${wire.place(at + 1)}`).join(', ');
  const values = [...shown.map(({ value }) => value), key];
  if (set !== '') {
    await connection.rows(`UPDATE ${spelling.name(root.name)} SET ${set}${whereKey(values.length)}`, values);
  }
  for (const row of belonging.filter((one) => !kept(one))) await insertRows(connection, row, [own]);
}

/** The part of a record that a row of a table within holds. */
function partOf(record: { readonly [field: string]: unknown }, { table, indices }: RowToWrite): unknown {
  let part: unknown = record;
  for (const step of table.of.split('.')) {
    part = typeof part === 'object' && part !== null && Object.hasOwn(part, step) ? (part as Row)[step] : undefined;
  }
  const index = indices.get(table.of);
  return index === undefined ? part : Array.isArray(part) ? part[index] : undefined;
}

/** Removes a record's rows of a table within, but for those that stay. */
async function removeRows(
  connection: Connection,
  table: Table,
  key: string | number,
  staying: readonly RowToWrite[],
): Promise<void> {
  const { spelling, wire } = tableTargets[connection.engine];
  const [owner, place] = table.key.map(({ name }) => spelling.name(name));
  const indices = staying.map((row) => row.indices.get(table.of));
  if (place === undefined && staying.length > 0) return;
  const places = indices.map((_, at) => wire.place(at + 2)).join(', ');
  const but = indices.length === 0 ? '' : ` AND ${place} NOT IN (${places})`;
  const sql = `DELETE FROM ${spelling.name(table.name)} WHERE ${owner} = ${wire.place(1)}${but}`;
  await connection.rows(sql, [key, ...indices.map((index) => (index ?? 0) + 1)]);
}

/**
 * Removes a stored record with all its rows.
 *
 * @returns the record as it was; or who still refers to it, and nothing is changed; null where there is none
 */
export async function deleteRecord(
  handle: Handle,
  ruleset: AnyRuleset,
  key: string | number,
  options: RecordOptions = {},
): Promise<Written<Row> | null> {
  const place = placeOf(handle, ruleset, options.rulesets);
  const { connection, root, whereKey } = place;
  if (keyIn(place, key) === null) return null;
  const remove = async () => {
    const before = await findRecord(handle, ruleset, key, options);
    const sql = `DELETE FROM ${tableTargets[connection.engine].spelling.name(root.name)}${whereKey(1)}`;
    if (before !== null) await connection.rows(sql, [key]);
    return before;
  };
  const written = await write(handle, ruleset, null, remove, options);
  if (!written.ok) return written;
  return written.value === null ? null : { ok: true, value: written.value };
}
