import type { Clock, Row, Value, Wire } from './value.js';
import type { Verdict } from './verdict.js';

/** What is done with a record: stored as a new one, put in the place of a stored one, or put over some of its fields. */
export const writes = ['insert', 'replace', 'patch'] as const;
export type WriteOperation = (typeof writes)[number];

/** What a case does: a write, or the deletion of a row that a stored record refers to. */
export const operations = [...writes, 'delete'] as const;
export type Operation = (typeof operations)[number];

/** One input at the edge of a rule, with the verdict to expect. Plain JSON, written to files as it is. */
export interface Case {
  readonly id: string;
  readonly ruleset: string;
  /** The constraint it is about. */
  readonly constraint: string;
  readonly criterion: string;
  readonly reason: string;
  readonly does: Operation;
  readonly wire: Wire;
  /** Who is asked: the server and what is behind it; or the page, about what only the page has. */
  readonly on: 'server' | 'client';
  readonly clock: Clock;
  /** The other rows that are stored before, in an order that their references allow. */
  readonly before: readonly { readonly ruleset: string; readonly row: Row }[];
  /** The stored record that is changed, or refers to the deleted row, in canonical form; null where one is inserted. */
  readonly existing: Row | null;
  /** What is sent; of a deletion, the deleted row as `{ ruleset, key }`. */
  readonly input: unknown;
  /** Of a deletion, `accepted` is the record as it is afterwards, without fields where it is deleted too. */
  readonly expected: Verdict;
}

/** The row that a deletion deletes. */
export interface DeletedRow {
  readonly ruleset: string;
  readonly key: Value;
}
