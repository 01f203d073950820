import type { Column } from '../../core/targets/index.js';
import type { Columns, Connection } from './connection.js';

/** What is asked of a client of the usual driver, of a pool's client too. */
export interface PostgresqlClient {
  query(query: {
    text: string;
    values?: unknown[];
    types?: { getTypeParser: () => (value: string) => string };
  }): Promise<unknown>;
}

/** What is asked of the engine in WASM. */
export interface EmbeddedPostgresql {
  query(sql: string, values?: unknown[], options?: object): Promise<{ readonly rows: unknown[] }>;
  exec(sql: string, options?: object): Promise<readonly { readonly rows: unknown[] }[]>;
}

const asText = (value: unknown) => (value === null || value === undefined ? null : String(value));
const types = { getTypeParser: () => (value: string) => value };

interface Result {
  readonly rows: readonly Columns[];
}

export function clientConnection(client: PostgresqlClient): Connection {
  const ask = async (text: string, values?: unknown[]): Promise<readonly Result[]> => {
    const answer = await client.query({ text, types, ...(values === undefined ? {} : { values }) });
    return (Array.isArray(answer) ? answer : [answer]) as readonly Result[];
  };
  return connection(async (sql, values) => (await ask(sql, values?.map(asText))).map(({ rows }) => rows));
}

/** bool, int8, int2, int4, text, float8, varchar, date, time, timestamp, timestamptz, numeric, uuid, jsonb: sent and read as text, as a driver over the wire does. */
const SINGLE = [16, 20, 21, 23, 25, 701, 1043, 1082, 1083, 1114, 1184, 1700, 2950, 3802];
/** Arrays of those, in the same order but for jsonb. */
const ARRAYS = [1000, 1016, 1005, 1007, 1009, 1022, 1015, 1182, 1183, 1115, 1185, 1231, 2951];
const TYPES = [...SINGLE, ...ARRAYS];
const same = (value: Column) => value;
const embedded = {
  serializers: Object.fromEntries(TYPES.map((type) => [type, String])),
  parsers: Object.fromEntries(TYPES.map((type) => [type, same])),
};

export function embeddedConnection(database: EmbeddedPostgresql): Connection {
  return connection(async (sql, values) => {
    if (values === undefined) return (await database.exec(sql, embedded)).map(({ rows }) => rows as Columns[]);
    return [(await database.query(sql, [...values], embedded)).rows as Columns[]];
  });
}

type Ask = (sql: string, values?: unknown[]) => Promise<readonly (readonly Columns[])[]>;

function connection(ask: Ask): Connection {
  return {
    engine: 'postgresql',
    rows: async (sql, values = []) => (await ask(sql, [...values]))[0] ?? [],
    run: (sql) => ask(sql),
    async inTransaction() {
      try {
        await ask('SAVEPOINT echo_rule_asks');
      } catch (error) {
        // No active SQL transaction.
        if ((error as { readonly code?: unknown }).code === '25P01') return false;
        throw error;
      }
      await ask('RELEASE SAVEPOINT echo_rule_asks');
      return true;
    },
  };
}
