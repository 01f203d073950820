import type { Value } from './value.js';

/** What one target makes of one constraint; where not exact, with a value that shows it. */
export type Fidelity =
  | { readonly is: 'exact' }
  | {
      readonly is: 'looser' | 'stricter' | 'other' | 'altering' | 'absent';
      readonly why: string;
      readonly shown?: Value;
      /** A layer that knows the stored rows holds it all the same. */
      readonly needs?: 'store';
      /** What would hold it was left out, as it would also refuse what is allowed. */
      readonly would?: 'stricter';
      /** It is absent from what is compiled only: other code of the same target holds it. */
      readonly elsewise?: true;
    };

/** Where a target is not exact. */
export type Gap = Exclude<Fidelity, { readonly is: 'exact' }>;

/** A line of the ledger: what a constraint became in one target (the very text), and how true that is. */
export interface Entry {
  readonly constraint: string;
  readonly target: string;
  readonly becomes: string | null;
  readonly fidelity: Fidelity;
}
