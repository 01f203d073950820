import type { PGlite } from '@electric-sql/pglite';
import type { Schema } from '../core/declare/index.js';
import { type KnownField, type PerKind, valueField } from '../core/kinds/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import type { Answer, Case, Row, Value } from '../core/model/index.js';
import { quoteName } from '../core/targets/index.js';
import { blamesFromPostgresql, type ColumnsByConstraint } from '../server/database-errors/postgresql.js';
import { type Layer, modelOf, type OpenLayer, rowFor, type Surroundings } from './layer.js';
import { byBefore, missingColumns, type TableOptions, tablesSql } from './tables.js';

/** Tables in PostgreSQL, in this process (WASM), in memory: made from the compiled SQL or from a file. */
export function postgresqlLayer(options: TableOptions = {}): Layer {
  return {
    kind: 'postgresql',
    target: 'postgresql',
    rulesets: options.rulesets ?? null,
    can: { store: true, allViolations: false, wires: ['row'], convertsFirst: true },
    open: (surroundings) => open(options, surroundings),
  };
}

/** bool, int8, int2, int4, text, float8, varchar, date, numeric: sent and read as text, as a driver over the wire does. */
const TYPES = [16, 20, 21, 23, 25, 701, 1043, 1082, 1700];
const asText = {
  serializers: Object.fromEntries(TYPES.map((type) => [type, (value: unknown) => String(value)])),
  parsers: Object.fromEntries(TYPES.map((type) => [type, (value: string) => value])),
};

async function open(options: TableOptions, surroundings: Surroundings): Promise<OpenLayer> {
  const { schema } = surroundings;
  const sql = tablesSql(options, 'postgresql', surroundings);
  const database = await start();
  try {
    await database.exec(sql);
  } catch (error) {
    await database.close();
    throw new ProblemError([problems.layerUnreachable(null, 'postgresql', `its SQL fails: ${String(error)}`)]);
  }
  const columns = await columnsByTable(database);
  const lacking = missingColumns(schema, options, (table) => columns.get(table) ?? []);
  if (lacking !== null) throw new ProblemError([problems.layerUnreachable(null, 'postgresql', lacking)]);
  const foreign = await columnsByConstraint(database);
  return {
    async *answer(cases) {
      for (const group of byBefore(cases)) yield* answerGroup(database, schema, group, foreign);
    },
    close: () => database.close(),
  };
}

async function start(): Promise<PGlite> {
  const loaded = await import('@electric-sql/pglite').catch(() => null);
  if (loaded === null) throw new ProblemError([problems.driverMissing(null, '@electric-sql/pglite')]);
  return loaded.PGlite.create();
}

async function columnsByTable(database: PGlite): Promise<ReadonlyMap<string, readonly string[]>> {
  const { rows } = await database.query<{ table: string; columns: string[] }>(
    `SELECT table_name AS table, array_agg(column_name::text) AS columns
     FROM information_schema.columns WHERE table_schema = 'public' GROUP BY 1`,
  );
  return new Map(rows.map(({ table, columns }) => [table, columns]));
}

/** The columns of every constraint and unique index, for those whose names are not ours. */
async function columnsByConstraint(database: PGlite): Promise<ColumnsByConstraint> {
  const { rows } = await database.query<{ name: string; columns: string[] }>(
    `SELECT conname::text AS name, array_agg(attname::text) AS columns
     FROM pg_constraint JOIN pg_attribute ON attrelid = conrelid AND attnum = ANY (conkey)
     WHERE connamespace = 'public'::regnamespace GROUP BY 1
     UNION ALL
     SELECT relname::text, array_agg(attname::text)
     FROM pg_index JOIN pg_class ON pg_class.oid = indexrelid
     JOIN pg_attribute ON attrelid = indrelid AND attnum = ANY (indkey)
     WHERE relnamespace = 'public'::regnamespace GROUP BY 1`,
  );
  return new Map(rows.map(({ name, columns }) => [name, columns]));
}

/** All in one transaction that is rolled back; each case behind a savepoint. */
async function* answerGroup(
  database: PGlite,
  schema: Schema,
  group: readonly Case[],
  foreign: ColumnsByConstraint,
): AsyncIterable<readonly [Case, Answer]> {
  await database.exec('BEGIN; SET CONSTRAINTS ALL IMMEDIATE');
  try {
    const failed = await storeBefore(database, schema, group[0]);
    for (const one of group) {
      if (failed !== null) {
        yield [one, { breakdown: failed }] as const;
        continue;
      }
      await database.exec('SAVEPOINT probe');
      const answer = await answerOne(database, schema, one, foreign);
      await database.exec('ROLLBACK TO probe');
      yield [one, answer] as const;
    }
  } finally {
    await database.exec('ROLLBACK');
  }
}

async function storeBefore(database: PGlite, schema: Schema, first: Case | undefined): Promise<string | null> {
  try {
    for (const { ruleset, row } of first?.before ?? []) await insert(database, modelOf(ruleset, schema), row);
    return null;
  } catch (error) {
    return `the rows that are there before can't be stored: ${error instanceof Error ? error.message : String(error)}`;
  }
}

async function answerOne(database: PGlite, schema: Schema, one: Case, foreign: ColumnsByConstraint): Promise<Answer> {
  const model = modelOf(one.ruleset, schema);
  const row = rowFor(one, schema) ?? {};
  try {
    const stored = await insert(database, model, row);
    return { accepted: stored === undefined ? {} : fromColumns(model, stored) };
  } catch (error) {
    const refused = blamesFromPostgresql(error, model, foreign);
    if (refused !== null) return { refused };
    return { breakdown: error instanceof Error ? error.message : String(error) };
  }
}

type Columns = { readonly [column: string]: string | null };

/** Inserts a row and gives back what was stored; undefined where a trigger let nothing be stored. */
async function insert(
  database: PGlite,
  model: Schema[number],
  row: { readonly [name: string]: unknown },
): Promise<Columns | undefined> {
  const given = Object.values(model.fields).filter(({ path }) => Object.hasOwn(row, path));
  const columns = given.map(({ column }) => quoteName(column)).join(', ');
  const places = given.map((_, at) => `$${at + 1}`).join(', ');
  const sql = `INSERT INTO ${quoteName(model.table)} (${columns}) VALUES (${places}) RETURNING *`;
  const values = given.map(({ path }) => row[path] ?? null);
  const { rows } = await database.query<Columns>(sql, values, asText);
  return rows[0];
}

function fromColumns(model: Schema[number], columns: Columns): Row {
  const fields = Object.values(model.fields);
  return Object.fromEntries(fields.map((field) => [field.path, fromColumn(field, columns[field.column] ?? null)]));
}

const sameText = (text: string): Value => text;

/** From the engine's text of a value to the kind's own values; anything else stays what it is. */
const readers: PerKind<(text: string) => Value> = {
  text: sameText,
  integer: (text) => (/^-?[0-9]+$/.test(text) ? Number(text) : text),
  choice: sameText,
  date: sameText,
  boolean: (text) => (/^[tf]$/.test(text) ? text === 't' : text),
  reference: sameText,
};

function fromColumn(field: KnownField, text: string | null): Value {
  return text === null ? null : readers[valueField(field).kind](text);
}
