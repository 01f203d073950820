import type { Clock, Row, Wire } from './value.js';
import type { Verdict } from './verdict.js';

/** One input at the edge of a rule, with the verdict to expect. Plain JSON, written to files as it is. */
export interface Case {
  readonly id: string;
  readonly ruleset: string;
  /** The constraint it is about. */
  readonly constraint: string;
  readonly criterion: string;
  readonly reason: string;
  readonly does: 'insert';
  readonly wire: Wire;
  readonly clock: Clock;
  /** The rows that are stored before, in an order that their references allow. */
  readonly before: readonly { readonly ruleset: string; readonly row: Row }[];
  readonly input: unknown;
  readonly expected: Verdict;
}
