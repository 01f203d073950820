import type { Table } from './layout.js';
import { constraintName, fingerprint } from './names.js';

export interface ColumnText {
  readonly name: string;
  readonly type: string;
  /** What follows the type: a default, how it is filled. */
  readonly rest: string;
  readonly required: boolean;
  readonly label: string;
}

/** A constraint of a table by its name, as it stands in the table. */
export interface ClauseText {
  readonly name: string;
  readonly text: string;
}

/** One table as text, in the pieces that engines put together in their own ways. */
export interface TableText {
  readonly table: Table;
  /** Types and functions of its own, made before it. */
  readonly before: readonly string[];
  readonly columns: readonly ColumnText[];
  /** Columns that the engine works out for a constraint. */
  readonly workedOut: readonly string[];
  readonly clauses: readonly ClauseText[];
  /** Indexes and triggers. */
  readonly statements: readonly string[];
}

/** Tells the tables of one set of rules from those of another: it is written into the table. */
export function markOf({ before, columns, workedOut, clauses, statements }: TableText): string {
  const text = JSON.stringify([before, columns, workedOut, clauses, statements]);
  return `echo-rule ${fingerprint(text)}${fingerprint(`${text.length} ${text}`)}`;
}

/** The name of what belongs to a table itself, and to no rule. */
export function ownName({ model, of }: Table, what: string): string {
  return constraintName(of === '' ? model.ruleset : `${model.ruleset}.${of}`, `_${what}`);
}

/** A line each for the columns, then for the constraints. `note` stands behind the comma. */
export function tableLines(
  { columns, workedOut, clauses }: TableText,
  name: (name: string) => string,
  told: (label: string) => { readonly inside?: string; readonly note?: string },
): string {
  const lines = [
    ...columns.map(({ name: called, type, rest, required, label }) => {
      const { inside = '', note = '' } = told(label);
      const parts = [name(called), type, rest, required ? 'NOT NULL' : '', inside].filter((part) => part !== '');
      return { text: parts.join(' '), note };
    }),
    ...[...workedOut, ...clauses.map(({ text }) => text)].map((text) => ({ text, note: '' })),
  ];
  return lines
    .map(({ text, note }, at) => `  ${text}${at < lines.length - 1 ? ',' : ''}${note === '' ? '' : ` -- ${note}`}`)
    .join('\n');
}
