import { type Indices, noIndices } from '../core/model/index.js';
import { placeColumn, type Table, tableTargets } from '../core/targets/index.js';
import { allColumns } from './all-columns.js';
import type { Columns, Connection } from './connections/index.js';
import type { RowToWrite } from './rows.js';

/** A row that an engine took, as it gave it back; null where it reported success and stored nothing. */
export interface Inserted {
  readonly row: RowToWrite;
  readonly columns: Columns | null;
}

/** A refused row, and which one of the record's it is. */
export class RowRefused extends Error {
  readonly row: RowToWrite;

  constructor(row: RowToWrite, cause: unknown) {
    super(cause instanceof Error ? cause.message : String(cause), { cause });
    this.name = 'RowRefused';
    this.row = row;
  }
}

/** The columns of a row with those that say whose it is. `owner` are the values of the key of the row it belongs to. */
export function wholeRow(row: RowToWrite, owner: readonly unknown[]): RowToWrite['columns'] {
  const { key } = row.table;
  const place = placeColumn(row.table);
  return [
    ...owner.map((value, at) => ({ name: key[at]?.name ?? '', value })),
    ...(place === null ? [] : [{ name: place, value: placeOf(row.table, row.indices) }]),
    ...row.columns,
  ];
}

/** An item's place in its list, from 1. */
function placeOf({ of }: Table, indices: Indices): number {
  return (indices.get(of) ?? 0) + 1;
}

/**
 * Writes a record's rows, each after the one that it belongs to.
 *
 * @param fills who fills what nobody sends, as for `rowsOf`
 * @throws RowRefused with the engine's error as its cause
 */
export async function insertRows(
  connection: Connection,
  row: RowToWrite,
  owner: readonly unknown[] = [],
  fills: 'store' | 'record' = 'store',
): Promise<readonly Inserted[]> {
  const { spelling, wire } = tableTargets[connection.engine];
  const columns = wholeRow(row, owner);
  const names = columns.map(({ name }) => spelling.name(name)).join(', ');
  const places = columns.map((_, at) => wire.place(at + 1)).join(', ');
  const given = fills === 'record' ? wire.givenKey : '';
  const what = columns.length === 0 ? wire.emptyRow : `(${names}) ${given}VALUES (${places})`;
  const sql = `INSERT INTO ${spelling.name(row.table.name)} ${what} RETURNING ${allColumns(row.table, connection)}`;
  const values = columns.map(({ value }) => value);
  const [stored] = await connection.rows(sql, values).catch((error: unknown) => {
    throw new RowRefused(row, error);
  });
  if (stored === undefined) return [{ row, columns: null }];
  const key = row.table.key.map(({ name }) => stored[name] ?? null);
  const inserted: Inserted[] = [{ row, columns: stored }];
  for (const one of row.belonging) inserted.push(...(await insertRows(connection, one, key)));
  return inserted;
}

/** The rows as they are now: a trigger may have changed what the insert gave back. */
export async function readAgain(connection: Connection, inserted: readonly Inserted[]): Promise<readonly Inserted[]> {
  const { spelling, wire } = tableTargets[connection.engine];
  const again: Inserted[] = [];
  for (const { row, columns } of inserted) {
    const { key, name } = row.table;
    const where = key.map((one, at) => `${spelling.name(one.name)} = ${wire.place(at + 1)}`).join(' AND ');
    const values = key.map((one) => columns?.[one.name] ?? null);
    const sql = `SELECT ${allColumns(row.table, connection)} FROM ${spelling.name(name)} WHERE ${where}`;
    const [found] = columns === null ? [] : await connection.rows(sql, values);
    again.push({ row, columns: found ?? null });
  }
  return again;
}

/** A table and an item of each list on the way, as one text. */
export function instanceOf(of: string, indices: Indices): string {
  return `${of} ${[...indices.values()].join()}`;
}

/** Finds what was inserted for a table and an item of each list on the way. */
export function finding(inserted: readonly Inserted[]) {
  const found = new Map(inserted.map(({ row, columns }) => [instanceOf(row.table.of, row.indices), columns]));
  return (of: string, indices: Indices = noIndices()) => found.get(instanceOf(of, indices)) ?? null;
}
