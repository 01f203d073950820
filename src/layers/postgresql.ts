import { ProblemError, problems } from '../core/messages/index.js';
import { operations } from '../core/model/index.js';
import { tablesOf } from '../core/targets/index.js';
import { type Connection, connectionOf } from '../server/connections/index.js';
import { type ForeignConstraints, placeOf } from '../server/database-errors/index.js';
import { addressOf, withoutPassword } from './addresses.js';
import { judgedBy, type Layer } from './layer.js';
import { given, type Opened } from './opened.js';
import { postgresqlBatch } from './postgresql-batch.js';
import { bounded, LONGEST_MS, spellAlike } from './postgresql-session.js';
import { openTables, type TableEngine, type TableOptions } from './tables.js';
import { isCompiled, isLive, tablesSql } from './tables-sql.js';

/**
 * Tables in PostgreSQL: live ones by address or connection, or, in this process (WASM) and in memory, those that the
 * compiled SQL or a file makes.
 */
export function postgresqlLayer(options: TableOptions = {}): Layer {
  return {
    kind: 'postgresql',
    ...judgedBy(options, isCompiled(options)),
    target: 'postgresql',
    rulesets: options.rulesets ?? null,
    holdsRows: isLive(options),
    can: { store: true, allViolations: false, wires: ['row'], does: operations, on: ['server'], convertsFirst: true },
    async open(surroundings) {
      const sql = tablesSql(options, 'postgresql', surroundings);
      return openTables(await postgresqlEngine(await openedPostgresql(options)), options, surroundings, sql);
    },
  };
}

/** The connection that the options give, or one to what they name. @throws ProblemError where there is none */
export async function openedPostgresql(options: Pick<TableOptions, 'handle' | 'url'>): Promise<Opened> {
  return (await given(options)) ?? (await opened(options));
}

/** The engine in this process (WASM), empty. */
export async function embeddedPostgresql(): Promise<Opened> {
  const loaded = await import('@electric-sql/pglite').catch(() => null);
  if (loaded === null) throw new ProblemError([problems.driverMissing(null, '@electric-sql/pglite')]);
  const database = await loaded.PGlite.create();
  return { handle: database, close: () => database.close() };
}

/** The server at an address, or the engine in this process without one. */
async function opened({ url }: Pick<TableOptions, 'url'>): Promise<Opened> {
  if (url === undefined) return embeddedPostgresql();
  const address = addressOf(url);
  const loaded = await import('pg').catch(() => null);
  if (loaded === null) throw new ProblemError([problems.driverMissing(null, 'pg')]);
  const client = new loaded.default.Client({ connectionString: address, statement_timeout: LONGEST_MS });
  await client.connect().catch((error: unknown) => {
    throw new ProblemError([problems.layerUnreachable(null, 'postgresql', withoutPassword(error, address))]);
  });
  // A connection that is lost is told by the next statement; without a listener it would end the process.
  client.on('error', () => {});
  await bounded(connectionOf(client));
  return { handle: client, close: () => client.end().catch(() => {}) };
}

/** What probing asks of an open connection. */
export async function postgresqlEngine({ handle, close }: Opened): Promise<TableEngine> {
  const connection = connectionOf(handle);
  const restore = await spellAlike(connection);
  const types = new Map<string, ReadonlyMap<string, string>>();
  return {
    name: 'postgresql',
    connection,
    begin: 'BEGIN; SET CONSTRAINTS ALL IMMEDIATE',
    async columnsOf(table) {
      const sql = `SELECT attname AS name FROM pg_attribute
        WHERE attrelid = to_regclass(quote_ident($1)) AND attnum > 0 AND NOT attisdropped AND attgenerated = ''`;
      return (await connection.rows(sql, [table])).map(({ name }) => String(name));
    },
    refuses: async () => null,
    foreign: () => foreignConstraints(connection),
    batch: async (attempts) => {
      const tables = attempts.flatMap(({ row }) => tablesOf(row.table.model).map(({ name }) => name));
      for (const table of new Set(tables))
        if (!types.has(table)) types.set(table, await columnTypes(connection, table));
      return postgresqlBatch(connection, attempts, types);
    },
    breaksLater: async () => false,
    isRefusal: () => false,
    // After an error the transaction answers nothing until it is rolled back, and a statement leaves nothing behind.
    count: async () => null,
    beyondRollback: async () => new Map(),
    async close() {
      // Where the connection is lost, so are its settings.
      await restore().catch(() => {});
      await close();
    },
  };
}

/** The types of a table's columns, each without its length or precision: with them a cast would cut and round. */
async function columnTypes(connection: Connection, table: string): Promise<ReadonlyMap<string, string>> {
  const sql = `SELECT attname AS name, format_type(atttypid, NULL) AS type FROM pg_attribute
    WHERE attrelid = to_regclass(quote_ident($1)) AND attnum > 0 AND NOT attisdropped`;
  return new Map((await connection.rows(sql, [table])).map(({ name, type }) => [String(name), String(type)]));
}

/** Every constraint and unique index, for those whose names are not ours. */
async function foreignConstraints(connection: Connection): Promise<ForeignConstraints> {
  const rows = await connection.rows(
    `SELECT relname::text AS table, conname::text AS name, json_agg(attname)::text AS columns,
       CASE contype WHEN 'c' THEN pg_get_constraintdef(pg_constraint.oid) END AS expression
     FROM pg_constraint JOIN pg_class ON pg_class.oid = conrelid
     JOIN pg_attribute ON attrelid = conrelid AND attnum = ANY (conkey)
     WHERE connamespace = ANY (current_schemas(false)::regnamespace[]) GROUP BY 1, 2, 4
     UNION ALL
     SELECT indrelid::regclass::text, relname::text, json_agg(attname)::text, NULL
     FROM pg_index JOIN pg_class ON pg_class.oid = indexrelid
     JOIN pg_attribute ON attrelid = indrelid AND attnum = ANY (indkey)
     WHERE relnamespace = ANY (current_schemas(false)::regnamespace[]) GROUP BY 1, 2`,
  );
  return new Map(
    rows.map(({ table, name, columns, expression }) => [
      placeOf(String(table), String(name)),
      {
        columns: JSON.parse(String(columns)) as string[],
        expression: expression === null || expression === undefined ? null : String(expression),
      },
    ]),
  );
}
