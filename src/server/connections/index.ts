import { ProblemError, problems } from '../../core/messages/index.js';
import type { Connection } from './connection.js';
import { type CallbackClient, type MariadbClient, mariadbConnection } from './mariadb.js';
import {
  clientConnection,
  type EmbeddedPostgresql,
  embeddedConnection as embeddedPostgresql,
  type PostgresqlClient,
} from './postgresql.js';
import {
  type EmbeddedSqlite,
  embeddedConnection as embeddedSqlite,
  type NativeSqlite,
  nativeConnection,
} from './sqlite.js';

export type { Columns, Connection } from './connection.js';

/** A driver's open connection: `pg`'s client, `mysql2`'s connection, or an engine in WASM. */
export type Handle =
  | PostgresqlClient
  | EmbeddedPostgresql
  | MariadbClient
  | CallbackClient
  | EmbeddedSqlite
  | NativeSqlite;

const has = (handle: object, ...methods: readonly string[]) =>
  methods.every((method) => typeof (handle as { readonly [name: string]: unknown })[method] === 'function');

/**
 * The connection behind a driver's handle, which the caller has opened and will close.
 *
 * @throws ProblemError for a pool, whose statements each go their own way, and for what is none of these
 */
export function connectionOf(handle: Handle): Connection {
  if (has(handle, 'connect', 'query') && 'totalCount' in handle) throw new ProblemError([problems.handlePool(null)]);
  if (has(handle, 'getConnection')) throw new ProblemError([problems.handlePool(null)]);
  if (has(handle, 'promise')) return mariadbConnection((handle as CallbackClient).promise());
  if (has(handle, 'execute', 'query')) return mariadbConnection(handle as MariadbClient);
  if (has(handle, 'exec', 'query')) return embeddedPostgresql(handle as EmbeddedPostgresql);
  if (has(handle, 'exec', 'getRowsModified')) return embeddedSqlite(handle as EmbeddedSqlite);
  if (has(handle, 'exec', 'prepare')) return nativeConnection(handle as NativeSqlite);
  if (has(handle, 'query')) return clientConnection(handle as PostgresqlClient);
  throw new ProblemError([problems.handleStrange(null)]);
}
