import type { Clock, Row, Wire } from './value.js';
import type { Verdict } from './verdict.js';

/** What is done with a record: stored as a new one, put in the place of a stored one, or put over some of its fields. */
export const operations = ['insert', 'replace', 'patch'] as const;
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
  /** The stored record that is replaced or patched, in canonical form; null where a new one is inserted. */
  readonly existing: Row | null;
  readonly input: unknown;
  readonly expected: Verdict;
}
