import type { Case, Entry } from '../core/model/index.js';
import type { TargetName } from '../core/targets/index.js';

/** What a case should come to in the tables of one engine: what it holds of the rules, by the ledger. */
export interface Expectation {
  /** `either`: none of the broken rules is held there as it is declared; `why` is what the ledger says. */
  readonly outcome: 'accepted' | 'refused' | 'either';
  readonly rules: readonly string[];
  readonly why: string | null;
}

/** What the tables of a target do with a case, as far as the ledger says. */
export function expectationOf({ expected }: Case, target: TargetName, ledger: readonly Entry[]): Expectation {
  if ('accepted' in expected) return { outcome: 'accepted', rules: [], why: null };
  const entries = expected.refused.flatMap(({ rule }) =>
    ledger.filter((entry) => entry.constraint === rule && entry.target === target),
  );
  const held = entries.filter(({ fidelity }) => fidelity.is === 'exact' || fidelity.is === 'stricter');
  const rules = (held.length > 0 ? held : entries).map(({ constraint }) => constraint);
  if (held.length > 0 || entries.length === 0) return { outcome: 'refused', rules, why: null };
  const reasons = entries.map(({ fidelity }) => ('why' in fidelity ? fidelity.why : '')).filter((why) => why !== '');
  return { outcome: 'either', rules, why: reasons[0] ?? null };
}
