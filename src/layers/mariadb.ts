import { ProblemError, problems } from '../core/messages/index.js';
import { operations } from '../core/model/index.js';
import { type Connection, connectionOf } from '../server/connections/index.js';
import { type ForeignConstraint, type ForeignConstraints, placeOf } from '../server/database-errors/index.js';
import { addressOf, withoutPassword } from './addresses.js';
import { judgedBy, type Layer } from './layer.js';
import { mariadbBatch } from './mariadb-batch.js';
import { type Reach, reachOf } from './mariadb-reach.js';
import { bounded, spellAlike } from './mariadb-session.js';
import { given, type Opened } from './opened.js';
import { openTables, type TableEngine, type TableOptions } from './tables.js';
import { isCompiled, isLive, tablesSql } from './tables-sql.js';

/** Tables in MariaDB, by address or connection; the engine has no form that runs in this process. */
export function mariadbLayer(options: TableOptions): Layer {
  return {
    kind: 'mariadb',
    ...judgedBy(options, isCompiled(options)),
    target: 'mariadb',
    rulesets: options.rulesets ?? null,
    holdsRows: isLive(options),
    can: { store: true, allViolations: false, wires: ['row'], does: operations, on: ['server'], convertsFirst: true },
    async open(surroundings) {
      if (options.url === undefined && options.handle === undefined)
        throw new ProblemError([problems.addressMissing(null, 'mariadbLayer')]);
      const sql = tablesSql(options, 'mariadb', surroundings);
      return openTables(
        await mariadbEngine((await given(options)) ?? (await openedMariadb(options))),
        options,
        surroundings,
        sql,
      );
    },
  };
}

/** A connection to the server at an address. @throws ProblemError where there is none */
export async function openedMariadb({ url = '' }: Pick<TableOptions, 'url'>): Promise<Opened> {
  const address = addressOf(url);
  const loaded = await import('mysql2/promise').catch(() => null);
  if (loaded === null) throw new ProblemError([problems.driverMissing(null, 'mysql2')]);
  const options = { uri: address, multipleStatements: true, charset: 'utf8mb4', timezone: 'Z' };
  const connection = await loaded.createConnection(options).catch((error: unknown) => {
    throw new ProblemError([problems.layerUnreachable(null, 'mariadb', withoutPassword(error, address))]);
  });
  // A connection that is lost is told by the next statement; without a listener it would end the process.
  connection.on('error', () => {});
  await bounded(connectionOf(connection));
  return { handle: connection, close: () => connection.end().catch(() => {}) };
}

/** What probing asks of an open connection. */
export async function mariadbEngine({ handle, close }: Opened): Promise<TableEngine> {
  const connection = connectionOf(handle);
  const restore = await spellAlike(connection);
  // Read once, when the tables are there.
  let read: Promise<Reach> | null = null;
  const reach = () => {
    read ??= reachOf(connection);
    return read;
  };
  return {
    name: 'mariadb',
    connection,
    begin: 'START TRANSACTION',
    async columnsOf(table) {
      const sql = `SELECT column_name AS name FROM information_schema.columns
        WHERE table_schema = database() AND table_name = ? AND generation_expression IS NULL`;
      return (await connection.rows(sql, [table])).map(({ name }) => String(name));
    },
    refuses: async (table) => (await reach()).refuses(table),
    foreign: () => foreignConstraints(connection),
    batch: (attempts) => mariadbBatch(connection, attempts),
    breaksLater: async () => false,
    isRefusal: () => false,
    async count(table) {
      const [row] = await connection.rows(`SELECT count(*) AS rows_there FROM \`${table.replaceAll('`', '``')}\``);
      return Number(row?.rows_there);
    },
    async beyondRollback() {
      const counts = new Map<string, number>();
      for (const table of (await reach()).unsafe) {
        // A table that the role may not read is not counted.
        const [row] = await connection.rows(`SELECT count(*) AS there FROM ${table}`).catch(() => []);
        if (row !== undefined) counts.set(table, Number(row.there));
      }
      return counts;
    },
    async close() {
      // Where the connection is lost, so are its settings.
      await restore().catch(() => {});
      await close();
    },
  };
}

/** Every key and CHECK, for those whose names are not ours. */
async function foreignConstraints(connection: Connection): Promise<ForeignConstraints> {
  const keys = await connection.rows(
    `SELECT table_name AS of, constraint_name AS name, group_concat(column_name SEPARATOR '\\n') AS columns_of
     FROM information_schema.key_column_usage WHERE table_schema = database() GROUP BY 1, 2`,
  );
  const checks = await connection.rows(
    `SELECT table_name AS of, constraint_name AS name, check_clause AS expression
     FROM information_schema.check_constraints WHERE constraint_schema = database()`,
  );
  const quoted = (text: string) => [...text.matchAll(/`((?:[^`]|``)+)`/g)].map(([, name = '']) => name);
  return new Map([
    ...keys.map(({ of, name, columns_of }): readonly [string, ForeignConstraint] => [
      placeOf(String(of), String(name)),
      { columns: String(columns_of).split('\n'), expression: null },
    ]),
    ...checks.map(({ of, name, expression }): readonly [string, ForeignConstraint] => [
      placeOf(String(of), String(name)),
      { columns: [...new Set(quoted(String(expression)))], expression: String(expression) },
    ]),
  ]);
}
