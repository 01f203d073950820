import { ProblemError, problems, problemsOf } from '../../core/messages/index.js';
import { type EngineName, type TargetName, tableTargets } from '../../core/targets/index.js';
import { withoutPassword } from '../../layers/addresses.js';
import type { Layer, OpenLayer, Surroundings } from '../../layers/layer.js';
import { mariadbEngine, mariadbLayer, openedMariadb } from '../../layers/mariadb.js';
import type { Opened } from '../../layers/opened.js';
import { embeddedPostgresql, openedPostgresql, postgresqlEngine, postgresqlLayer } from '../../layers/postgresql.js';
import { embeddedSqlite, sqliteEngine, sqliteLayer } from '../../layers/sqlite.js';
import { openTables, type TableEngine } from '../../layers/tables.js';
import { connectionOf, type Handle } from '../../server/connections/index.js';
import type { Strength } from './outcome.js';

/** A database of nobody's, in which tables can be made and dropped. */
export interface Scratch {
  readonly engine: EngineName;
  readonly layer: Layer;
  /** Makes the tables that SQL says; closing the layer drops them. */
  open(sql: string, surroundings: Surroundings): Promise<OpenLayer>;
  close(): Promise<void>;
}

/**
 * A database for each of some targets, on the server that is named for it or in this process, and which targets get none.
 * What was opened is the caller's to close.
 *
 * @param servers addresses of servers on which databases may be made and dropped
 * @throws ProblemError `scratch_unreachable` for an address that leads nowhere
 */
export async function openScratches(
  targets: readonly TargetName[],
  servers: { readonly [E in EngineName]?: string } = {},
): Promise<{ readonly scratches: readonly Scratch[]; readonly leftOut: Strength['leftOut'] }> {
  const scratches: Scratch[] = [];
  const leftOut: { readonly layer: string; readonly why: string }[] = [];
  try {
    for (const target of targets.filter((one) => Object.hasOwn(tableTargets, one))) {
      const engine = target as EngineName;
      const address = servers[engine];
      const opened =
        address === undefined ? await inProcess(engine) : await serverScratches[engine]?.(address, freshPrefix());
      if (opened === undefined)
        leftOut.push({ layer: target, why: 'no engine of it runs in this process, and --scratch names no server' });
      else if (typeof opened === 'string') leftOut.push({ layer: target, why: opened });
      else scratches.push(opened);
    }
  } catch (error) {
    for (const scratch of scratches) await scratch.close();
    throw error;
  }
  return { scratches, leftOut };
}

/** A database in this process, or why there is none; undefined where the engine has no form that runs so. */
async function inProcess(engine: EngineName): Promise<Scratch | string | undefined> {
  return embedded[engine]?.().catch((error: unknown) => {
    const [problem] = problemsOf(error) ?? [];
    if (problem === undefined) throw error;
    return `${problem.message} ${problem.mend}`;
  });
}

/** What names of databases begin with that nobody else has. */
function freshPrefix(): string {
  return `${PREFIX}_${crypto.randomUUID().slice(0, 8)}`;
}

const PREFIX = 'echo_rule_scratch';

/** The engines that have servers, with what opens a scratch there under a name of its own. */
const serverScratches: { readonly [E in EngineName]?: (address: string, prefix: string) => Promise<Scratch> } = {
  async postgresql(address, prefix) {
    const { handle, close } = await reached(address, openedPostgresql);
    return postgresqlScratch(handle, close, prefix);
  },
  async mariadb(address, prefix) {
    const { handle, close } = await reached(address, openedMariadb);
    return mariadbScratch(handle, prefix, close);
  },
};

/** The engines for which a server may be named. */
export const scratchServers = Object.keys(serverScratches) as readonly EngineName[];

/** A connection; where there is none, the mend is another than that of a layer. */
async function reached(url: string, open: (at: { readonly url: string }) => Promise<Opened>): Promise<Opened> {
  return open({ url }).catch((error: unknown) => {
    const problem = problemsOf(error)?.find(({ code }) => code === 'layer_unreachable');
    throw problem === undefined ? error : new ProblemError([problems.scratchUnreachable(null, problem.message)]);
  });
}

const embedded: { readonly [E in EngineName]?: () => Promise<Scratch> } = {
  async postgresql() {
    const { handle, close } = await embeddedPostgresql();
    return postgresqlScratch(handle, close);
  },
  async sqlite() {
    // The driver must be there before anything is planted.
    await (await embeddedSqlite()).close();
    return sqliteScratch();
  },
};

/** SQLite in memory: a database for each time. */
export function sqliteScratch(): Scratch {
  return {
    engine: 'sqlite',
    layer: sqliteLayer(),
    async open(sql, surroundings) {
      return openTables(await sqliteEngine(await embeddedSqlite()), {}, surroundings, sql);
    },
    close: async () => {},
  };
}

/**
 * PostgreSQL over a connection that is ours alone: a schema for each time.
 *
 * @param prefix what the names of the schemas begin with
 */
export function postgresqlScratch(
  handle: Handle,
  close: () => Promise<void> = async () => {},
  prefix = PREFIX,
): Scratch {
  return inNamespaces(handle, close, {
    prefix,
    engine: 'postgresql',
    layer: postgresqlLayer(),
    enter: (name) => `CREATE SCHEMA ${name}; SET search_path TO ${name}`,
    leave: (name) => `SET search_path TO public; DROP SCHEMA ${name} CASCADE`,
    over: postgresqlEngine,
  });
}

/**
 * MariaDB over a connection that is ours alone: a database for each time.
 *
 * @param prefix what the names of the databases begin with
 */
export function mariadbScratch(handle: Handle, prefix: string, close: () => Promise<void> = async () => {}): Scratch {
  return inNamespaces(handle, close, {
    prefix,
    engine: 'mariadb',
    layer: mariadbLayer({}),
    enter: (name) => `CREATE DATABASE ${name}; USE ${name}`,
    leave: (name) => `DROP DATABASE ${name}`,
    over: mariadbEngine,
  });
}

interface Namespaces extends Pick<Scratch, 'engine' | 'layer'> {
  readonly prefix: string;
  readonly enter: (name: string) => string;
  readonly leave: (name: string) => string;
  readonly over: (opened: Opened) => Promise<TableEngine>;
}

function inNamespaces(
  handle: Handle,
  close: () => Promise<void>,
  { prefix, engine, layer, enter, leave, over }: Namespaces,
): Scratch {
  const connection = connectionOf(handle);
  let count = 0;
  return {
    engine,
    layer,
    async open(sql, surroundings) {
      count += 1;
      const name = `${prefix}_${count}`;
      for (const statement of enter(name).split('; '))
        await connection.run(statement).catch((error: unknown) => {
          throw new ProblemError([problems.scratchRefused(null, engine, withoutPassword(error, ''))]);
        });
      const drop = async () => {
        for (const statement of leave(name).split('; ')) await connection.run(statement);
      };
      return openTables(await over({ handle, close: drop }), {}, surroundings, sql);
    },
    close,
  };
}
