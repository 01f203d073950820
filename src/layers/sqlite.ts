import type { Database, SqlValue } from 'sql.js';
import type { Schema } from '../core/declare/index.js';
import { type KnownField, type PerKind, valueField } from '../core/kinds/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import type { Row, Value } from '../core/model/index.js';
import { quoteName } from '../core/targets/index.js';
import { blamesFromSqlite } from '../server/database-errors/sqlite.js';
import { bindings, listFrom, recordFrom } from './columns.js';
import type { Layer } from './layer.js';
import { openTables, type TableEngine, type TableOptions, tablesSql } from './tables.js';

/** Tables in SQLite, in this process (WASM), in memory: made from the compiled SQL or from a file. */
export function sqliteLayer(options: TableOptions = {}): Layer {
  return {
    kind: 'sqlite',
    target: 'sqlite',
    rulesets: options.rulesets ?? null,
    can: { store: true, allViolations: false, wires: ['row'], convertsFirst: true },
    async open(surroundings) {
      const sql = tablesSql(options, 'sqlite', surroundings);
      return openTables(await start(), options, surroundings, sql);
    },
  };
}

async function start(): Promise<TableEngine> {
  const loaded = await import('sql.js').catch(() => null);
  if (loaded === null) throw new ProblemError([problems.driverMissing(null, 'sql.js')]);
  const database = new (await loaded.default()).Database();
  database.run('PRAGMA foreign_keys = ON');
  return {
    name: 'sqlite',
    begin: 'BEGIN',
    run: async (sql) => void database.run(sql),
    created: async () => {},
    columnsOf: async (table) => firstColumn(database, 'SELECT name FROM pragma_table_info(?)', table).map(String),
    insert: async (model, row) => insert(database, model, row),
    // A deferred foreign key would speak at COMMIT only, which never comes here.
    breaksLater: async ({ table }) =>
      firstColumn(database, 'SELECT 1 FROM pragma_foreign_key_check(?)', table).length > 0,
    blames: blamesFromSqlite,
    count: async ({ table }) => Number(firstColumn(database, `SELECT count(*) FROM ${quoteName(table)}`)[0]),
    close: async () => database.close(),
  };
}

function firstColumn(database: Database, sql: string, ...values: readonly SqlValue[]): readonly SqlValue[] {
  return database.exec(sql, [...values])[0]?.values.map(([value]) => value ?? null) ?? [];
}

async function insert(
  database: Database,
  model: Schema[number],
  row: { readonly [name: string]: unknown },
): Promise<Row> {
  const given = await bindings(model, row);
  const columns = given.map(({ column }) => quoteName(column)).join(', ');
  const places = given.map(() => '?').join(', ');
  const what = given.length === 0 ? 'DEFAULT VALUES' : `(${columns}) VALUES (${places})`;
  database.run(
    `INSERT INTO ${quoteName(model.table)} ${what}`,
    given.map(({ value }) => bound(value)),
  );
  return readBack(database, model, row);
}

/** The engine has no booleans: drivers bind 1 and 0. */
function bound(value: unknown): SqlValue {
  return typeof value === 'boolean' ? Number(value) : (value as SqlValue);
}

/** The row as it was stored; empty where the insert reported success and stored nothing. */
function readBack(database: Database, model: Schema[number], sent: { readonly [name: string]: unknown }): Row {
  const [result] = database.exec(`SELECT * FROM ${quoteName(model.table)} WHERE rowid = last_insert_rowid()`);
  const values = result?.values[0];
  if (result === undefined || values === undefined) return {};
  const columns = new Map(result.columns.map((column, at) => [column, values[at] ?? null]));
  return recordFrom(model, sent, (field) => fromColumn(field, columns.get(field.column) ?? null));
}

const asStored = (value: Value): Value => value;

/** From what the engine stores to the kind's own values; anything else stays what it is. */
const readers: PerKind<(value: Value) => Value> = {
  text: asStored,
  email: asStored,
  url: asStored,
  uuid: asStored,
  ip: asStored,
  integer: asStored,
  decimal: asStored,
  choice: asStored,
  date: asStored,
  time: asStored,
  timestamp: asStored,
  dateTime: asStored,
  boolean: (value) => (value === 0 || value === 1 ? value === 1 : value),
  record: asStored,
  list: listFrom,
  reference: asStored,
};

function fromColumn(field: KnownField, value: SqlValue): Value {
  return readers[valueField(field).kind](value instanceof Uint8Array ? `${value.length} bytes` : value);
}
