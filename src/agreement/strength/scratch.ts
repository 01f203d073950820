import type { EngineName } from '../../core/targets/index.js';
import type { Layer, OpenLayer, Surroundings } from '../../layers/layer.js';
import { mariadbEngine, mariadbLayer } from '../../layers/mariadb.js';
import type { Opened } from '../../layers/opened.js';
import { postgresqlEngine, postgresqlLayer } from '../../layers/postgresql.js';
import { sqliteEngine, sqliteLayer } from '../../layers/sqlite.js';
import { openTables, type TableEngine } from '../../layers/tables.js';
import { connectionOf, type Handle } from '../../server/connections/index.js';

/** A database of nobody's, in which tables can be made and dropped. */
export interface Scratch {
  readonly engine: EngineName;
  readonly layer: Layer;
  /** Makes the tables that SQL says; closing the layer drops them. */
  open(sql: string, surroundings: Surroundings): Promise<OpenLayer>;
  close(): Promise<void>;
}

/** Opens a new, empty database in this process. */
export type NewDatabase = () => Promise<Opened>;

/** SQLite in memory: a database for each time. */
export function sqliteScratch(create: NewDatabase): Scratch {
  return {
    engine: 'sqlite',
    layer: sqliteLayer(),
    async open(sql, surroundings) {
      return openTables(await sqliteEngine(await create()), {}, surroundings, sql);
    },
    close: async () => {},
  };
}

/** PostgreSQL over a connection that is ours alone: a schema for each time. */
export function postgresqlScratch(handle: Handle, close: () => Promise<void> = async () => {}): Scratch {
  return inNamespaces(handle, close, {
    engine: 'postgresql',
    layer: postgresqlLayer(),
    enter: (name) => `CREATE SCHEMA ${name}; SET search_path TO ${name}`,
    leave: (name) => `SET search_path TO public; DROP SCHEMA ${name} CASCADE`,
    over: postgresqlEngine,
  });
}

/** MariaDB over a connection that is ours alone: a database for each time. */
export function mariadbScratch(handle: Handle, close: () => Promise<void> = async () => {}): Scratch {
  return inNamespaces(handle, close, {
    engine: 'mariadb',
    layer: mariadbLayer({}),
    enter: (name) => `CREATE DATABASE ${name}; USE ${name}`,
    leave: (name) => `DROP DATABASE ${name}`,
    over: mariadbEngine,
  });
}

interface Namespaces extends Pick<Scratch, 'engine' | 'layer'> {
  readonly enter: (name: string) => string;
  readonly leave: (name: string) => string;
  readonly over: (opened: Opened) => Promise<TableEngine>;
}

function inNamespaces(
  handle: Handle,
  close: () => Promise<void>,
  { engine, layer, enter, leave, over }: Namespaces,
): Scratch {
  const connection = connectionOf(handle);
  let count = 0;
  return {
    engine,
    layer,
    async open(sql, surroundings) {
      count += 1;
      const name = `echo_rule_scratch_${count}`;
      for (const statement of enter(name).split('; ')) await connection.run(statement);
      const drop = async () => {
        for (const statement of leave(name).split('; ')) await connection.run(statement);
      };
      return openTables(await over({ handle, close: drop }), {}, surroundings, sql);
    },
    close,
  };
}
