import type { Operator } from './operator.js';

/** No text, list or record came in that is larger than the limits allow. */
export const bounded: Operator<'bounded'> = {
  mentions: () => [],
  judge: (_predicate, judging) => !judging.overLimits,
};
