import type { AcceptedOf, AnyRuleset } from '../declare/index.js';
import type { Violation, Wire } from '../model/index.js';
import { decide } from './index.js';

export type Checked<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly violations: readonly Violation[] };

export interface Validator<T> {
  /** `wire` says how the record came: JSON unless told otherwise. */
  check(input: unknown, how?: { readonly wire?: Wire }): Checked<T>;
}

/** Checks records in process, without a build step; the compiled module of the same ruleset answers the same. */
export function validator<R extends AnyRuleset>({ model }: R): Validator<AcceptedOf<R>> {
  return {
    check(input, { wire = 'json' } = {}) {
      const verdict = decide(model, input, wire);
      if ('accepted' in verdict) return { ok: true, value: verdict.accepted as AcceptedOf<R> };
      return { ok: false, violations: verdict.refused };
    },
  };
}
