import type { Operator } from './operator.js';

/** True where any is true, false where all are false, else unknown. */
export const or: Operator<'or'> = {
  mentions: ({ any }, inside) => any.flatMap(inside.predicate),
  judge({ any }, judging) {
    const truths = any.map((one) => judging.truth(one));
    if (truths.includes(true)) return true;
    return truths.includes(null) ? null : false;
  },
};
