import type { Schema } from '../declare/index.js';
import type { KnownField } from '../kinds/index.js';
import type { Problem } from '../messages/index.js';
import type { Constraint, Entry } from '../model/index.js';

/**
 * A file that a target makes: its path within the output folder, how its format writes a comment, and its text. JSON has no
 * comments: what is said stands in its `$comment`.
 */
export interface MadeFile {
  readonly path: string;
  readonly comment: readonly [open: string, close: string] | '$comment';
  /** The rulesets that it was made from. */
  readonly from: readonly string[];
  readonly text: string;
}

/** Which constraints an answer is wanted for. */
export type Wanted = (constraint: Constraint) => boolean;
export const everything: Wanted = () => true;

/** What constraints are compiled for. Same schema, same bytes. */
export interface Target {
  /**
   * What each constraint becomes here, and how true that is: one entry a constraint, in the schema's order; of those only
   * that are wanted.
   */
  ledger(schema: Schema, wanted?: Wanted): readonly Entry[];
  /** What can't be had here, though the rules are sound: nothing is made until it is mended. */
  problems(schema: Schema): readonly Problem[];
  emit(schema: Schema): readonly MadeFile[];
  /** True where it is relied on to refuse; native attributes are not: script says the same, and more. */
  readonly standsAlone: boolean;
  /** Made only where settings name it: not everybody has a use for it. */
  readonly onRequest?: true;
  /** All that it has of a field, where that is one thing, such as a control with its attributes. */
  whole?(field: KnownField): string | null;
}
