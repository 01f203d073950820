import { existsSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { ProblemError, problems } from '../core/messages/index.js';
import { operations } from '../core/model/index.js';
import { quoteName } from '../core/targets/index.js';
import { connectionOf } from '../server/connections/index.js';
import { addressOf } from './addresses.js';
import { judgedBy, type Layer } from './layer.js';
import { given, type Opened } from './opened.js';
import { namedChecks } from './sqlite-checks.js';
import { openTables, type TableEngine, type TableOptions } from './tables.js';
import { isCompiled, isLive, tablesSql } from './tables-sql.js';

/**
 * Tables in SQLite: those of an open connection, those of a file by its address (`file:studio.db`, relative to the
 * configuration, read into memory: the file itself is never written), or, in this process (WASM) and in memory, those
 * that the compiled SQL or a file of SQL makes.
 */
export function sqliteLayer(options: TableOptions = {}): Layer {
  return {
    kind: 'sqlite',
    ...judgedBy(options, isCompiled(options)),
    target: 'sqlite',
    rulesets: options.rulesets ?? null,
    holdsRows: isLive(options),
    can: { store: true, allViolations: false, wires: ['row'], does: operations, on: ['server'], convertsFirst: true },
    async open(surroundings) {
      const sql = tablesSql(options, 'sqlite', surroundings);
      const opened = (await given(options)) ?? (await copied(options, surroundings.folder));
      return openTables(await sqliteEngine(opened), options, surroundings, sql);
    },
  };
}

/** The engine in this process, empty or with a copy of a file. */
async function copied({ url }: TableOptions, folder: string): Promise<Opened> {
  return embeddedSqlite(url === undefined ? null : bytesOf(url, folder));
}

/** The engine in this process (WASM), empty or with the bytes of a file. */
export async function embeddedSqlite(bytes: Uint8Array | null = null): Promise<Opened> {
  const loaded = await import('sql.js').catch(() => null);
  if (loaded === null) throw new ProblemError([problems.driverMissing(null, 'sql.js')]);
  const database = new (await loaded.default()).Database(bytes);
  database.run('PRAGMA foreign_keys = ON');
  return { handle: database, close: async () => database.close() };
}

/** Where the header says which journal is kept; 2 is a write-ahead log, a second file that is not read here. */
const JOURNAL_BYTE = 18;

function bytesOf(url: string, folder: string): Uint8Array {
  const file = resolve(folder, addressOf(url).replace(/^(?:sqlite|file):(?:\/\/)?/, ''));
  const unreachable = (reason: string) => new ProblemError([problems.layerUnreachable(null, 'sqlite', reason)]);
  if (!existsSync(file)) throw unreachable('there is no such file');
  const bytes = readFileSync(file);
  if (bytes[JOURNAL_BYTE] === 2)
    throw unreachable('it keeps a write-ahead log: run PRAGMA journal_mode = DELETE first, or give an open connection');
  return bytes;
}

/** Errors that are no refusal of a value: the statement or the file is at fault. Any other may be a trigger's. */
const BROKEN =
  /^(?:no such |near "|incomplete input|table .* has |database |disk |out of memory|unrecognized token|attempt to write|interrupted)/;

/** What probing asks of an open connection. */
export async function sqliteEngine({ handle, close }: Opened): Promise<TableEngine> {
  const connection = connectionOf(handle);
  // A connection of somebody else's is taken as it is: with foreign keys off, which is where it begins, it refuses nothing.
  const [holds] = await connection.rows('PRAGMA foreign_keys');
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
    foreign: () => namedChecks(connection),
    batch: async (attempts) => attempts.map(() => null),
    // A deferred foreign key would speak at COMMIT only, which never comes here.
    async breaksLater(tables) {
      if (Number(holds?.foreign_keys) === 0) return false;
      for (const table of tables) {
        const found = await connection.rows('SELECT 1 AS broken FROM pragma_foreign_key_check(?)', [table]);
        if (found.length > 0) return true;
      }
      return false;
    },
    isRefusal: (error) => error instanceof Error && !BROKEN.test(error.message),
    count: async (table) =>
      Number((await connection.rows(`SELECT count(*) AS there FROM ${quoteName(table)}`))[0]?.there),
    beyondRollback: async () => new Map(),
    close,
  };
}
