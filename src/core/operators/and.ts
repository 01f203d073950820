import type { Operator } from './operator.js';

/** False where any is false, true where all are true, else unknown. */
export const and: Operator<'and'> = {
  mentions: ({ all }, inside) => all.flatMap(inside.predicate),
  judge({ all }, judging) {
    const truths = all.map((one) => judging.truth(one));
    if (truths.includes(false)) return false;
    return truths.includes(null) ? null : true;
  },
};
