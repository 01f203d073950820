import { problemsOf } from '../../core/messages/index.js';
import { type EngineName, type TargetName, tableTargets } from '../../core/targets/index.js';
import type { Layer, OpenLayer, Surroundings } from '../../layers/layer.js';
import { mariadbEngine, mariadbLayer } from '../../layers/mariadb.js';
import type { Opened } from '../../layers/opened.js';
import { embeddedPostgresql, postgresqlEngine, postgresqlLayer } from '../../layers/postgresql.js';
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
 * A database for each of some targets, in this process, and which targets get none. What was opened is the caller's to
 * close.
 */
export async function openScratches(
  targets: readonly TargetName[],
): Promise<{ readonly scratches: readonly Scratch[]; readonly leftOut: Strength['leftOut'] }> {
  const scratches: Scratch[] = [];
  const leftOut: { readonly layer: string; readonly why: string }[] = [];
  for (const target of targets.filter((one) => Object.hasOwn(tableTargets, one))) {
    const open = embedded[target as EngineName];
    const opened = await open?.().catch((error: unknown) => {
      const [problem] = problemsOf(error) ?? [];
      if (problem === undefined) throw error;
      leftOut.push({ layer: target, why: `${problem.message} ${problem.mend}` });
      return null;
    });
    if (opened === undefined) leftOut.push({ layer: target, why: 'no engine of it runs in this process' });
    else if (opened !== null) scratches.push(opened);
  }
  return { scratches, leftOut };
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

/** PostgreSQL over a connection that is ours alone: a schema for each time. */
export function postgresqlScratch(handle: Handle, close: () => Promise<void> = async () => {}): Scratch {
  return inNamespaces(handle, close, {
    prefix: 'echo_rule_scratch',
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
      for (const statement of enter(name).split('; ')) await connection.run(statement);
      const drop = async () => {
        for (const statement of leave(name).split('; ')) await connection.run(statement);
      };
      return openTables(await over({ handle, close: drop }), {}, surroundings, sql);
    },
    close,
  };
}
