import type { Database, SqlValue } from 'sql.js';
import type { Schema } from '../core/declare/index.js';
import { type KnownField, type PerKind, valueField } from '../core/kinds/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import type { Answer, Case, Row, Value } from '../core/model/index.js';
import { quoteName } from '../core/targets/index.js';
import { blamesFromSqlite } from '../server/database-errors/sqlite.js';
import { type Layer, modelOf, type OpenLayer, rowFor, type Surroundings } from './layer.js';
import { byBefore, missingColumns, type TableOptions, tablesSql } from './tables.js';

/** Tables in SQLite, in this process (WASM), in memory: made from the compiled SQL or from a file. */
export function sqliteLayer(options: TableOptions = {}): Layer {
  return {
    kind: 'sqlite',
    target: 'sqlite',
    rulesets: options.rulesets ?? null,
    can: { store: true, allViolations: false, wires: ['row'], convertsFirst: true },
    open: (surroundings) => open(options, surroundings),
  };
}

async function open(options: TableOptions, surroundings: Surroundings): Promise<OpenLayer> {
  const { schema } = surroundings;
  const sql = tablesSql(options, 'sqlite', surroundings);
  const database = await start();
  try {
    database.run('PRAGMA foreign_keys = ON');
    database.run(sql);
  } catch (error) {
    database.close();
    throw new ProblemError([problems.layerUnreachable(null, 'sqlite', `its SQL fails: ${String(error)}`)]);
  }
  const lacking = missingColumns(schema, options, (table) => columnsOf(database, table));
  if (lacking !== null) throw new ProblemError([problems.layerUnreachable(null, 'sqlite', lacking)]);
  return {
    async *answer(cases) {
      for (const group of byBefore(cases)) yield* answerGroup(database, schema, group);
    },
    close: async () => database.close(),
  };
}

async function start(): Promise<Database> {
  const loaded = await import('sql.js').catch(() => null);
  if (loaded === null) throw new ProblemError([problems.driverMissing(null, 'sql.js')]);
  const engine = await loaded.default();
  return new engine.Database();
}

function columnsOf(database: Database, table: string): readonly string[] {
  const [result] = database.exec('SELECT name FROM pragma_table_info(?)', [table]);
  return result?.values.map(([name]) => String(name)) ?? [];
}

/** All in one transaction that is rolled back; each case behind a savepoint. */
function* answerGroup(database: Database, schema: Schema, group: readonly Case[]): Iterable<readonly [Case, Answer]> {
  database.run('BEGIN');
  try {
    const failed = storeBefore(database, schema, group[0]);
    for (const one of group) {
      if (failed !== null) {
        yield [one, { breakdown: failed }] as const;
        continue;
      }
      database.run('SAVEPOINT probe');
      const answer = answerOne(database, schema, one);
      database.run('ROLLBACK TO probe');
      yield [one, answer] as const;
    }
  } finally {
    database.run('ROLLBACK');
  }
}

function storeBefore(database: Database, schema: Schema, first: Case | undefined): string | null {
  try {
    for (const { ruleset, row } of first?.before ?? []) insert(database, modelOf(ruleset, schema), row);
    return null;
  } catch (error) {
    return `the rows that are there before can't be stored: ${error instanceof Error ? error.message : String(error)}`;
  }
}

function answerOne(database: Database, schema: Schema, one: Case): Answer {
  const model = modelOf(one.ruleset, schema);
  const row = rowFor(one, schema) ?? {};
  const count = () => Number(database.exec(`SELECT count(*) FROM ${quoteName(model.table)}`)[0]?.values[0]?.[0]);
  const before = count();
  const residue = () => (count() > before ? { residue: 'refuses it, and stores a row all the same' } : {});
  try {
    insert(database, model, row);
    // A deferred foreign key would speak at COMMIT only, which never comes here.
    const dangling = database.exec('SELECT 1 FROM pragma_foreign_key_check(?)', [model.table]);
    return dangling.length > 0 ? { refused: [] } : { accepted: readBack(database, model) };
  } catch (error) {
    const refused = blamesFromSqlite(error, model);
    if (refused !== null) return { refused, ...residue() };
    return { breakdown: error instanceof Error ? error.message : String(error), ...residue() };
  }
}

function insert(database: Database, model: Schema[number], row: { readonly [name: string]: unknown }): void {
  const given = Object.values(model.fields).filter(({ path }) => Object.hasOwn(row, path));
  const columns = given.map(({ column }) => quoteName(column)).join(', ');
  const places = given.map(() => '?').join(', ');
  const values = given.map(({ path }) => bound(row[path]));
  database.run(`INSERT INTO ${quoteName(model.table)} (${columns}) VALUES (${places})`, values);
}

/** The engine has no booleans: drivers bind 1 and 0. */
function bound(value: unknown): SqlValue {
  return typeof value === 'boolean' ? Number(value) : (value as SqlValue);
}

/** The row as it was stored; empty where the insert reported success and stored nothing. */
function readBack(database: Database, model: Schema[number]): Row {
  const [result] = database.exec(`SELECT * FROM ${quoteName(model.table)} WHERE rowid = last_insert_rowid()`);
  const values = result?.values[0];
  if (result === undefined || values === undefined) return {};
  const columns = new Map(result.columns.map((column, at) => [column, values[at] ?? null]));
  const fields = Object.values(model.fields);
  return Object.fromEntries(fields.map((field) => [field.path, fromColumn(field, columns.get(field.column) ?? null)]));
}

const asStored = (value: Value): Value => value;

/** From what the engine stores to the kind's own values; anything else stays what it is. */
const readers: PerKind<(value: Value) => Value> = {
  text: asStored,
  integer: asStored,
  choice: asStored,
  date: asStored,
  boolean: (value) => (value === 0 || value === 1 ? value === 1 : value),
  reference: asStored,
};

function fromColumn(field: KnownField, value: SqlValue): Value {
  return readers[valueField(field).kind](value instanceof Uint8Array ? `${value.length} bytes` : value);
}
