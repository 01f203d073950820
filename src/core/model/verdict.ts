import type { Row } from './value.js';

/** One broken constraint: an RFC 6901 pointer to the blamed field, the constraint's id, the message for a person. */
export interface Violation {
  readonly pointer: string;
  readonly rule: string;
  readonly message: string;
}

/** `possibly`: look-ups behind another fault of their fields, right told or untold. */
export type Verdict =
  | { readonly accepted: Row }
  | { readonly refused: readonly Violation[]; readonly possibly: readonly Violation[] };

/** What a layer blames, as far as it tells: null where it names no field or no rule of ours. */
export interface Blame {
  readonly pointer: string | null;
  readonly rule: string | null;
  readonly message: string;
}

/** What a layer did with one case. `accepted`: the stored record, or null where it does not tell. `residue`: what was stored although the record was refused. */
export type Answer =
  | { readonly accepted: Row | null }
  | { readonly refused: readonly Blame[]; readonly residue?: string }
  | { readonly breakdown: string; readonly residue?: string }
  | { readonly notApplicable: string };
