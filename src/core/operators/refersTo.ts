import { valueAt } from '../model/index.js';
import type { Operator } from './operator.js';

/** The target exists, be it the record itself; unknown without a store, and where the reference is absent. */
export const refersTo: Operator<'refersTo'> = {
  mentions: ({ of }) => [of],
  judge({ of, to, key }, judging) {
    const rows = judging.stored(to);
    const value = judging.value(of);
    if (rows === null || value === null) return null;
    if (to === judging.ruleset && judging.value(key) === value) return true;
    for (const row of rows) if (valueAt(row, key) === value) return true;
    return false;
  },
};
