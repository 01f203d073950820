import type { KnownField, Seconds } from '../../kinds/index.js';
import type { Problem } from '../../messages/index.js';
import type { Domain, Fidelity, Gap, Pattern, Value } from '../../model/index.js';
import type { Table } from './layout.js';
import type { Spelling } from './print.js';
import type { RowWire } from './row-wire.js';
import type { TableText } from './table-text.js';
import type { Sql } from './tree.js';

/** The column of a kind: its type, the CHECK that completes it, and how true that is to the kind's grammar. */
export interface ColumnType {
  readonly type: string;
  readonly check: Sql | null;
  readonly fidelity: Fidelity;
  /** A column of text, whose letters an index can fold. */
  readonly isText?: true;
  /** A finer fraction is rounded before any CHECK sees it. */
  readonly rounds?: true;
  /** What must be there before the table: a type of its own. */
  readonly before?: string;
}

/**
 * A pattern as an expression (where it is not exact, with the gap), or as a statement of its own where no expression holds it;
 * or why it can't be held.
 */
export type Enforced =
  | { readonly check: Sql; readonly gap?: Gap }
  | { readonly statements: readonly string[] }
  | { readonly untranslated: string };

/** Values that no two rows of a table share. */
export interface UniqueRule {
  readonly name: string;
  readonly table: Table;
  readonly isKey: boolean;
  /** Columns of the table's key that stand before the fields: items are told apart within their list. */
  readonly within: readonly string[];
  readonly fields: readonly KnownField[];
  readonly folds: boolean;
  readonly where: Sql | null;
  /** The fields that the condition mentions. */
  readonly whereFields: readonly KnownField[];
}

/** What a unique rule becomes: a constraint of the table, columns that it needs, statements behind the table. */
export interface UniqueForm {
  readonly fidelity: Fidelity;
  readonly clause?: string;
  readonly columns?: readonly string[];
  readonly statements?: readonly string[];
  /** What must be there before the table: a function that its condition needs. */
  readonly before?: string;
}

/** Where a pattern is held: what a statement of its own needs to know. */
export interface PatternPlace {
  readonly table: string;
  readonly column: string;
  readonly name: string;
}

/** What one engine does its own way. Fields come with the key that a reference leads to in place of the reference. */
export interface Dialect {
  readonly target: string;
  readonly spelling: Spelling;
  readonly wire: RowWire;
  /** The column that counts, for a ruleset without a key, and the type of a column that refers to it. */
  readonly countingKey: string;
  readonly countedType: string;
  /** The type of an item's place in its list. */
  readonly placeType: string;
  /** A table may refer to one that is made after it. */
  readonly refersAhead: boolean;
  /** The engine makes the index that a foreign key needs by itself. */
  readonly indexesReferences: boolean;
  columnType(field: KnownField, table: Table): ColumnType;
  /** True where a CHECK may mention the field's column. */
  checkable(field: KnownField): boolean;
  /** The value of a field's column in the type that expressions over its domain need. */
  reading(field: KnownField): Sql | null;
  /** How the engine writes a value of a domain in an expression. */
  literal(value: Value, domain: Domain): Sql;
  /** That text is in canonical form, as far as the engine can say. */
  canonical(of: Sql, field: KnownField): Sql;
  /** What the engine can't say of canonical form, for facets that ask for more; null where it says all. */
  notCanonical(field: KnownField): string | null;
  /** What holds a column's text with A–Z as a–z, for a unique rule of that name. */
  folded(rule: string, column: string): string;
  unique(rule: UniqueRule): UniqueForm;
  /** An index that is no rule. */
  index(name: string, table: Table, fields: readonly KnownField[]): string;
  lengthOf(text: Sql): Sql;
  /** The number of entries in a column of JSON. */
  itemsIn(column: Sql): Sql;
  /** How many of several are given. */
  countGiven(columns: readonly Sql[]): Sql;
  /** One text within another. */
  includes(text: Sql, part: Sql, where: 'anywhere' | 'start' | 'end'): Sql;
  /** Exact arithmetic over numbers with at most so many fraction digits; null where the engine's is not. */
  arithmetic(by: '+' | '-' | '*', left: Sql, right: Sql, digits: readonly [left: number, right: number]): Sql | null;
  /** A whole multiple of a step; `isWhole` where the value has no digits behind the point. */
  multiple(value: Sql, step: string | number, isWhole: boolean): Sql | null;
  daysBetween(from: Sql, to: Sql): Sql;
  yearOf(date: Sql): Sql;
  /** The seconds since midnight of a time as fine as that; null where they would not be exact. */
  secondsOf(time: Sql, seconds: Seconds): Sql | null;
  /** A comparison of moments of which one is finer than the other; null where it would not be exact. */
  compareMoments(
    sides: readonly [Sql, Sql],
    by: string,
    seconds: readonly (Seconds | null)[],
    domain: Domain,
  ): Sql | null;
  /** What a column that nobody sends is filled by; null where the engine can't. */
  filling(field: KnownField): string | null;
  /** Statements that keep the time of the last change in a column. */
  touching(field: KnownField, table: Table): readonly string[];
  /** A literal default, behind the column's type. */
  defaultOf(field: KnownField, spelled: string): string;
  matches(of: Sql, pattern: Pattern, place: PatternPlace): Enforced;
  /** What this engine can't have: a name that it refuses, a key that no index of its holds. */
  problems(table: Table, typed: (field: KnownField) => KnownField): readonly Problem[];
  /** Stops where a table of these names is there already and differs, and says how. */
  guard(texts: readonly TableText[]): string;
  /** What the script ends with; '' where nothing. */
  readonly ending: string;
  createTable(text: TableText): readonly string[];
  /** A foreign key behind the tables, where a circle of tables needs it. */
  addKey(table: string, name: string, key: string): string;
  /** Takes all of it away again; `keys` are those of `addKey`. */
  drop(texts: readonly TableText[], keys: readonly { readonly table: string; readonly name: string }[]): string;
}
