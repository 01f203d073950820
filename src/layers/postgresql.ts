import type { PGlite } from '@electric-sql/pglite';
import type { Schema } from '../core/declare/index.js';
import {
  canonicalDateTime,
  canonicalInstant,
  canonicalTime,
  fractionOf,
  hasIntegerCodes,
  isNumeric,
  type KnownField,
  type PerKind,
  valueField,
} from '../core/kinds/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import { exactOf, exactText, type Row, type Value } from '../core/model/index.js';
import { quoteName } from '../core/targets/index.js';
import { blamesFromPostgresql, type ColumnsByConstraint } from '../server/database-errors/postgresql.js';
import { bindings, listFrom, recordFrom } from './columns.js';
import type { Layer } from './layer.js';
import { openTables, type TableEngine, type TableOptions, tablesSql } from './tables.js';

/** Tables in PostgreSQL, in this process (WASM), in memory: made from the compiled SQL or from a file. */
export function postgresqlLayer(options: TableOptions = {}): Layer {
  return {
    kind: 'postgresql',
    target: 'postgresql',
    rulesets: options.rulesets ?? null,
    can: { store: true, allViolations: false, wires: ['row'], convertsFirst: true },
    async open(surroundings) {
      const sql = tablesSql(options, 'postgresql', surroundings);
      return openTables(await start(), options, surroundings, sql);
    },
  };
}

/** bool, int8, int2, int4, text, float8, varchar, date, time, timestamp, timestamptz, numeric, jsonb: sent and read as text, as a driver over the wire does. */
const TYPES = [16, 20, 21, 23, 25, 701, 1043, 1082, 1083, 1114, 1184, 1700, 3802];
const asText = {
  serializers: Object.fromEntries(TYPES.map((type) => [type, (value: unknown) => String(value)])),
  parsers: Object.fromEntries(TYPES.map((type) => [type, (value: string) => value])),
};

async function start(): Promise<TableEngine> {
  const loaded = await import('@electric-sql/pglite').catch(() => null);
  if (loaded === null) throw new ProblemError([problems.driverMissing(null, '@electric-sql/pglite')]);
  const database = await loaded.PGlite.create();
  await database.exec("SET TIME ZONE 'UTC'");
  let foreign: ColumnsByConstraint = new Map();
  return {
    name: 'postgresql',
    begin: 'BEGIN; SET CONSTRAINTS ALL IMMEDIATE',
    run: async (sql) => void (await database.exec(sql)),
    async created() {
      foreign = await columnsByConstraint(database);
    },
    async columnsOf(table) {
      const sql = `SELECT column_name::text AS name FROM information_schema.columns
        WHERE table_schema = 'public' AND table_name = $1`;
      return (await database.query<{ name: string }>(sql, [table])).rows.map(({ name }) => name);
    },
    insert: (model, row) => insert(database, model, row),
    breaksLater: async () => false,
    blames: (error, model) => blamesFromPostgresql(error, model, foreign),
    // After an error the transaction answers nothing until it is rolled back, and a statement leaves nothing behind.
    count: async () => null,
    close: () => database.close(),
  };
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

type Columns = { readonly [column: string]: string | null };

async function insert(
  database: PGlite,
  model: Schema[number],
  row: { readonly [name: string]: unknown },
): Promise<Row> {
  const given = await bindings(model, row);
  const columns = given.map(({ column }) => quoteName(column)).join(', ');
  const places = given.map((_, at) => `$${at + 1}`).join(', ');
  const what = given.length === 0 ? 'DEFAULT VALUES' : `(${columns}) VALUES (${places})`;
  const sql = `INSERT INTO ${quoteName(model.table)} ${what} RETURNING *`;
  const values = given.map(({ value }) => value ?? null);
  const [stored] = (await database.query<Columns>(sql, values, asText)).rows;
  // A trigger may let nothing be stored, and the statement succeed.
  if (stored === undefined) return {};
  return recordFrom(model, row, (field) => fromColumn(field, stored[field.column] ?? null));
}

const sameText = (text: string): Value => text;

function numberOf(field: KnownField, text: string): Value {
  const exact = exactOf(text);
  if (exact === null) return text;
  return isNumeric(field) ? Number(exactText(exact)) : exactText(exact);
}

const whole = (_field: KnownField, text: string): Value => (/^-?[0-9]+$/.test(text) ? Number(text) : text);

/** From the engine's text of a value to the kind's own values; anything else stays what it is. */
const readers: PerKind<(field: KnownField, text: string) => Value> = {
  text: (_field, text) => sameText(text),
  email: (_field, text) => sameText(text),
  url: (_field, text) => sameText(text),
  uuid: (_field, text) => sameText(text),
  ip: (_field, text) => sameText(text),
  integer: whole,
  decimal: numberOf,
  choice: (field, text) => (hasIntegerCodes(field) ? whole(field, text) : text),
  date: (_field, text) => sameText(text),
  time: (field, text) => canonicalTime(text, fractionOf(field), true) ?? text,
  timestamp: (field, text) => canonicalInstant(`${local(text).replace(/\+00$/, '')}Z`, fractionOf(field), true) ?? text,
  dateTime: (field, text) => canonicalDateTime(local(text), fractionOf(field), true) ?? text,
  boolean: (_field, text) => (/^[tf]$/.test(text) ? text === 't' : text),
  record: (_field, text) => sameText(text),
  list: (_field, text) => listFrom(text),
  reference: (_field, text) => sameText(text),
};

function local(text: string): string {
  return text.replace(' ', 'T');
}

function fromColumn(field: KnownField, text: string | null): Value {
  const inner = valueField(field);
  return text === null ? null : readers[inner.kind](inner, text);
}
