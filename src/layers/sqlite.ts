import { ProblemError, problems } from '../core/messages/index.js';
import { quoteName } from '../core/targets/index.js';
import { connectionOf, type Handle } from '../server/connections/index.js';
import type { Layer } from './layer.js';
import { openTables, type TableEngine, type TableOptions, tablesSql } from './tables.js';

/**
 * Tables in SQLite: those of an open connection, or, in this process (WASM) and in memory, those that the compiled SQL
 * or a file makes. A file of the engine's own is opened by its driver, and given as a connection.
 */
export function sqliteLayer(options: Omit<TableOptions, 'url'> = {}): Layer {
  return {
    kind: 'sqlite',
    target: 'sqlite',
    rulesets: options.rulesets ?? null,
    can: { store: true, allViolations: false, wires: ['row'], convertsFirst: true },
    async open(surroundings) {
      const sql = tablesSql(options, 'sqlite', surroundings);
      return openTables(await start(options), options, surroundings, sql);
    },
  };
}

async function opened({ handle }: TableOptions): Promise<{ handle: Handle; close: () => Promise<void> }> {
  if (handle !== undefined) {
    return { handle: typeof handle === 'function' ? await handle() : handle, close: async () => {} };
  }
  const loaded = await import('sql.js').catch(() => null);
  if (loaded === null) throw new ProblemError([problems.driverMissing(null, 'sql.js')]);
  const database = new (await loaded.default()).Database();
  return { handle: database, close: async () => database.close() };
}

/** Errors that are no refusal of a value: the statement or the file is at fault. Any other may be a trigger's. */
const BROKEN =
  /^(?:no such |near "|incomplete input|table .* has |database |disk |out of memory|unrecognized token|attempt to write|interrupted)/;

async function start(options: TableOptions): Promise<TableEngine> {
  const { handle, close } = await opened(options);
  const connection = connectionOf(handle);
  await connection.run('PRAGMA foreign_keys = ON');
  return {
    name: 'sqlite',
    connection,
    begin: 'BEGIN',
    // 2 and 3 are generated columns.
    columnsOf: async (table) =>
      (await connection.rows('SELECT name FROM pragma_table_xinfo(?) WHERE hidden NOT IN (2, 3)', [table])).map(
        ({ name }) => String(name),
      ),
    refuses: async () => null,
    foreign: async () => new Map(),
    batch: async (attempts) => attempts.map(() => null),
    // A deferred foreign key would speak at COMMIT only, which never comes here.
    async breaksLater(tables) {
      for (const table of tables) {
        const found = await connection.rows('SELECT 1 AS broken FROM pragma_foreign_key_check(?)', [table]);
        if (found.length > 0) return true;
      }
      return false;
    },
    isRefusal: (error) => error instanceof Error && !BROKEN.test(error.message),
    count: async (table) =>
      Number((await connection.rows(`SELECT count(*) AS there FROM ${quoteName(table)}`))[0]?.there),
    close,
  };
}
