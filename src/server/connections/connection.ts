import type { Column, EngineName } from '../../core/targets/index.js';

/** A row by its columns, in their order. */
export type Columns = { readonly [column: string]: Column };

/** An open connection to an engine, whatever its driver: what writing and probing ask of it. */
export interface Connection {
  readonly engine: EngineName;
  /** One statement with its values; values come back as the engine's own text, in SQLite as they are. */
  rows(sql: string, values?: readonly unknown[]): Promise<readonly Columns[]>;
  /** Statements without values; the rows of each that gives any. */
  run(sql: string): Promise<readonly (readonly Columns[])[]>;
  /** True within a transaction that someone began. */
  inTransaction(): Promise<boolean>;
}
