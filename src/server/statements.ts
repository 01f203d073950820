import type { Schema } from '../core/declare/index.js';
import type { Row } from '../core/model/index.js';
import { type EngineName, tablesOf, tableTargets } from '../core/targets/index.js';
import { wholeRow } from './insert.js';
import { NoRows, type RowToWrite, rowsOf } from './rows.js';

/** A value that no statement can hold as text. */
export class NoStatement extends Error {
  constructor(why: string) {
    super(why);
    this.name = 'NoStatement';
  }
}

/** What a statement says in place of a value. */
class Expression {
  readonly sql: string;

  constructor(sql: string) {
    this.sql = sql;
  }
}

/** True for what says that a record has no statements; anything else is an error. */
export function isUnstatable(error: unknown): boolean {
  return error instanceof NoRows || error instanceof NoStatement;
}

/**
 * The statements that insert a record, each row after the one that it belongs to.
 *
 * @param counted the number of the record, where its table counts its rows; without it the table counts on
 * @throws NoRows where something else stands in the place of a list or record; NoStatement for text that can't be written
 */
export async function insertStatements(
  model: Schema[number],
  record: Row,
  schema: Schema,
  engine: EngineName,
  counted: number | null = null,
): Promise<readonly string[]> {
  const root = await rowsOf(model, record, schema, engine, 'record');
  const { columns } = root;
  const keyName = root.table.key[0]?.name ?? '';
  const isGiven = counted !== null && !columns.some(({ name }) => name === keyName);
  const row = isGiven ? { ...root, columns: [{ name: keyName, value: counted }, ...columns] } : root;
  return insertAll(row, [], engine, isCounting(row) ? tableTargets[engine].wire.givenKey : '');
}

/** True where the engine counts a table's key, and the row says it all the same. */
function isCounting({ table: { key }, columns }: RowToWrite): boolean {
  const [first] = key;
  const isCounted =
    first?.holds === 'count' || (typeof first?.holds === 'object' && first.holds.generated === 'identity');
  return isCounted && columns.some(({ name }) => name === first?.name);
}

function insertAll(
  row: RowToWrite,
  owner: readonly unknown[],
  engine: EngineName,
  givenKey: string,
): readonly string[] {
  const { spelling, wire } = tableTargets[engine];
  const columns = wholeRow(row, owner);
  const names = columns.map(({ name }) => spelling.name(name)).join(', ');
  const values = columns.map(({ value }) => literalOf(value, engine)).join(', ');
  const what = columns.length === 0 ? wire.emptyRow : `(${names}) ${givenKey}VALUES (${values})`;
  const table = spelling.name(row.table.name);
  const key = row.table.key.map(({ name }) => {
    const own = columns.find((column) => column.name === name);
    return own === undefined ? new Expression(wire.lastKey(table, spelling.name(name))) : own.value;
  });
  return [`INSERT INTO ${table} ${what};`, ...row.belonging.flatMap((one) => insertAll(one, key, engine, ''))];
}

/** A bound value as the engine writes it. */
function literalOf(value: unknown, engine: EngineName): string {
  const { spelling } = tableTargets[engine];
  if (value instanceof Expression) return value.sql;
  if (value === null || value === undefined) return 'NULL';
  if (typeof value === 'boolean') return spelling.truth(value);
  if (typeof value === 'number' || typeof value === 'bigint') return String(value);
  const text = String(value);
  if (text.includes('\0')) throw new NoStatement('no statement holds U+0000');
  if (/\p{Surrogate}/u.test(text)) throw new NoStatement('a lone surrogate is no character of a file');
  return spelling.text(text);
}

/** What a script ends with, so that a table goes on counting behind the numbers that it was given; none where it does so. */
export function countingOn(model: Schema[number], engine: EngineName): readonly string[] {
  const { spelling, wire } = tableTargets[engine];
  const [root] = tablesOf(model);
  const [key] = root?.key ?? [];
  const isCounted = key?.holds === 'count' || (typeof key?.holds === 'object' && key.holds.generated === 'identity');
  if (root === undefined || key === undefined || !isCounted || wire.givenKey === '') return [];
  const [table, column] = [spelling.name(root.name), spelling.name(key.name)];
  const sequence = `pg_get_serial_sequence(${spelling.text(table)}, ${spelling.text(key.name)})`;
  return [`SELECT setval(${sequence}, greatest((SELECT max(${column}) FROM ${table}), 1));`];
}
