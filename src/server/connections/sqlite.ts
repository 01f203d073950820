import type { Column } from '../../core/targets/index.js';
import type { Columns, Connection } from './connection.js';

/** What is asked of the engine in WASM. */
export interface EmbeddedSqlite {
  exec(sql: string, values?: never): readonly { readonly columns: string[]; readonly values: unknown[][] }[];
  getRowsModified(): number;
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
  const ask = async (sql: string, values?: readonly unknown[]): Promise<readonly (readonly Columns[])[]> =>
    database
      // Of a driver's own type for values only the driver knows.
      .exec(sql, values as never)
      .map(({ columns, values: rows }) =>
        rows.map((row): Columns => Object.fromEntries(columns.map((name, at) => [name, columnOf(row[at])]))),
      );
  return {
    engine: 'sqlite',
    rows: async (sql, values = []) => (await ask(sql, values))[0] ?? [],
    run: (sql) => ask(sql),
    inTransaction: () => within(ask),
  };
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
