import type { Columns, Connection } from './connection.js';

type Cast = (field: { string(): string | null }) => string | null;

/** What is asked of a connection of the usual driver, in its form with promises. */
export interface MariadbClient {
  query(options: { sql: string; values?: unknown[]; typeCast?: Cast }): Promise<unknown>;
}

const text: Cast = (field) => field.string();

/** Characters that the driver escapes with a backslash, which is none where the session's mode says so. */
const ESCAPED = /[\\'"\0\b\t\n\r\x1a]/;

/** A text that would be escaped as its bytes, which read the same in every mode. */
function literal(value: unknown): unknown {
  if (typeof value !== 'string' || !ESCAPED.test(value)) return value ?? null;
  return { toSqlString: () => `_utf8mb4 X'${Buffer.from(value, 'utf8').toString('hex')}'` };
}

/** A connection that takes a callback gives the one with promises by a method of its own. */
export interface CallbackClient {
  promise(): MariadbClient;
}

export function mariadbConnection(client: MariadbClient): Connection {
  const ask = async (sql: string, values?: readonly unknown[]): Promise<readonly (readonly Columns[])[]> => {
    const given = values === undefined ? {} : { values: values.map(literal) };
    const [answer] = (await client.query({ sql, ...given, typeCast: text })) as [unknown];
    if (!Array.isArray(answer)) return [];
    // Rows of one statement, or an entry a statement: its rows, or how many were changed.
    const isMany = answer.some((one) => Array.isArray(one)) || answer.some((one) => isHeader(one));
    return isMany ? answer.filter((one) => Array.isArray(one)) : [answer as Columns[]];
  };
  return {
    engine: 'mariadb',
    rows: async (sql, values = []) => (await ask(sql, values))[0] ?? [],
    run: (sql) => ask(sql),
    inTransaction: async () => (await ask('SELECT @@in_transaction AS within'))[0]?.[0]?.within === '1',
  };
}

/** By its class, as a column may be called `constructor`. */
function isHeader(one: unknown): boolean {
  return typeof one === 'object' && one !== null && Object.getPrototypeOf(one).constructor.name === 'ResultSetHeader';
}
