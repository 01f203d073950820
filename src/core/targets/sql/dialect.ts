import type { KnownField } from '../../kinds/index.js';
import type { Fidelity, Pattern } from '../../model/index.js';
import type { Spelling } from './print.js';
import type { Sql } from './tree.js';

/** The column of a kind: its type, the CHECK that completes it, and how true that is to the kind's grammar. */
export interface ColumnType {
  readonly type: string;
  readonly check: Sql | null;
  readonly fidelity: Fidelity;
  /** A column of text, whose letters an index can fold. */
  readonly isText?: true;
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
  /** A table may refer to one that is made after it. */
  readonly refersAhead: boolean;
  columnType(field: KnownField): ColumnType;
  /** That text is in canonical form, as far as the engine can say. */
  canonical(column: Sql, field: KnownField): Sql;
  /** What the engine can't say of canonical form, for facets that ask for more; null where it says all. */
  notCanonical(field: KnownField): string | null;
  /** How true a unique index over these fields is: engines limit what an index entry may hold. */
  unique(fields: readonly KnownField[]): Fidelity;
  lengthOf(text: Sql): Sql;
  /** How many of several are given. */
  countGiven(columns: readonly Sql[]): Sql;
  /** One text within another. */
  includes(text: Sql, part: Sql, where: 'anywhere' | 'start' | 'end'): Sql;
  /** Exact arithmetic over numbers; null where the engine's is not. */
  arithmetic(by: '+' | '-' | '*', left: Sql, right: Sql, exact: boolean): Sql | null;
  multiple(value: Sql, step: string | number, field: KnownField): Sql | null;
  daysBetween(from: Sql, to: Sql): Sql;
  /** A text column whose index takes A–Z and a–z for the same. */
  folded(column: string): string;
  /** What a column that nobody sends is filled by; null where the engine can't. */
  filling(field: KnownField): string | null;
  /** A literal default, behind the column's type. */
  defaultOf(field: KnownField, spelled: string): string;
  matches(column: string, pattern: Pattern, place: { readonly table: string; readonly name: string }): Enforced;
}
