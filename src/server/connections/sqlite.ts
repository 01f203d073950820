import type { Column } from '../../core/targets/index.js';
import type { Columns, Connection } from './connection.js';

/** What is asked of the engine in WASM. */
export interface EmbeddedSqlite {
  exec(sql: string): readonly { readonly columns: string[]; readonly values: unknown[][] }[];
  prepare(sql: string, values?: never): EmbeddedStatement;
  getRowsModified(): number;
}

interface EmbeddedStatement {
  step(): boolean;
  getColumnNames(): string[];
  get(): unknown[];
  /** There, and told by no type of its own. */
  getBlob?(column: number): Uint8Array;
  free(): unknown;
}

/** What is asked of native drivers, whose statements give all their rows at once. */
export interface NativeSqlite {
  exec(sql: string): unknown;
  prepare(sql: string): { all(...values: unknown[]): unknown };
}

/** True where the next savepoint would not begin a transaction. */
async function within(run: (sql: string) => Promise<unknown>): Promise<boolean> {
  try {
    await run('BEGIN');
  } catch (error) {
    if (/within a transaction/.test(String(error))) return true;
    throw error;
  }
  await run('ROLLBACK');
  return false;
}

export function embeddedConnection(database: EmbeddedSqlite): Connection {
  const run = async (sql: string): Promise<readonly (readonly Columns[])[]> =>
    database
      .exec(sql)
      .map(({ columns, values: rows }) =>
        rows.map((row): Columns => Object.fromEntries(columns.map((name, at) => [name, columnOf(row[at])]))),
      );
  return {
    engine: 'sqlite',
    rows: async (sql, values = []) => {
      // Of a driver's own type for values only the driver knows.
      const statement = database.prepare(sql, values as never);
      try {
        return rowsOf(statement);
      } finally {
        statement.free();
      }
    },
    run,
    inTransaction: () => within(run),
  };
}

/** A text's bytes are read here: the driver's own reading takes a byte order mark at its beginning away. */
function rowsOf(statement: EmbeddedStatement): readonly Columns[] {
  const decoder = new TextDecoder('utf-8', { ignoreBOM: true });
  const read = (value: unknown, at: number): Column => {
    const bytes = typeof value === 'string' ? statement.getBlob?.(at) : undefined;
    return bytes === undefined ? columnOf(value) : decoder.decode(bytes);
  };
  const rows: Columns[] = [];
  while (statement.step()) {
    const names = statement.getColumnNames();
    const values = statement.get().map(read);
    rows.push(Object.fromEntries(names.map((name, at) => [name, values[at] ?? null])));
  }
  return rows;
}

export function nativeConnection(database: NativeSqlite): Connection {
  const run = async (sql: string) => {
    database.exec(sql);
    return [];
  };
  return {
    engine: 'sqlite',
    rows: async (sql, values = []) => {
      const rows = database.prepare(sql).all(...values) as readonly { readonly [column: string]: unknown }[];
      return rows.map((row) => Object.fromEntries(Object.entries(row).map(([name, value]) => [name, columnOf(value)])));
    },
    run,
    inTransaction: () => within(run),
  };
}

function columnOf(value: unknown): Column {
  return value instanceof Uint8Array ? `${value.length} bytes` : ((value ?? null) as Column);
}
