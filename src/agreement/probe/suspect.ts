import type { decide } from '../../core/meaning/index.js';
import type { Case, Verdict } from '../../core/model/index.js';

/** A layer as it would be with one mistake: what it would say of a case. */
export interface Suspect {
  /** The mistake, in words. */
  readonly words: string;
  says(one: Case): Verdict;
}

/** How a case is judged, with what is stored. */
export function how({ before, clock, does, existing }: Case): NonNullable<Parameters<typeof decide>[3]> {
  const store = (ruleset: string) => before.filter((one) => one.ruleset === ruleset).map(({ row }) => row);
  return { store, clock, partial: does === 'patch', existing };
}
