import type { KnownField } from '../../kinds/index.js';
import type { Fidelity, Pattern } from '../../model/index.js';
import type { Spelling } from './print.js';
import type { Sql } from './tree.js';

/** The column of a kind: its type, the CHECK that completes it, and how true that is to the kind's grammar. */
export interface ColumnType {
  readonly type: string;
  readonly check: Sql | null;
  readonly fidelity: Fidelity;
}

/** A pattern as an expression, or as a statement of its own where no expression holds it; or why it can't be held. */
export type Enforced =
  | { readonly check: Sql }
  | { readonly statements: readonly string[] }
  | { readonly untranslated: string };

/** What one engine does its own way. */
export interface Dialect {
  readonly target: string;
  readonly spelling: Spelling;
  /** The column that counts, for a ruleset without a key. */
  readonly countingKey: string;
  /** What stands behind the closing parenthesis of a table. */
  readonly tableEnd: string;
  columnType(field: KnownField): ColumnType;
  canonical(column: Sql, lines: 'one' | 'many'): Sql;
  /** How true a unique index over these fields is: engines limit what an index entry may hold. */
  unique(fields: readonly KnownField[]): Fidelity;
  lengthOf(text: Sql): Sql;
  matches(column: string, pattern: Pattern, place: { readonly table: string; readonly name: string }): Enforced;
}
