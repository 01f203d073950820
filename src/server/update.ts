import type { Row } from '../core/model/index.js';
import { type Table, tablesOf, tableTargets } from '../core/targets/index.js';
import type { Connection } from './connections/index.js';
import { insertRows } from './insert.js';
import type { Place } from './place.js';
import type { RowToWrite } from './rows.js';

/**
 * Puts a record's rows in the place of a stored record's. Rows of its lists that stay as they are are not touched.
 *
 * @throws what the engine says of the row that it refuses
 */
export async function updateRows(
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
