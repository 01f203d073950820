import type { Operator } from './operator.js';

/** The other truth value; unknown stays unknown. */
export const not: Operator<'not'> = {
  mentions: ({ holds }, inside) => inside.predicate(holds),
  judge({ holds }, judging) {
    const truth = judging.truth(holds);
    return truth === null ? null : !truth;
  },
};
