import type { Operator } from './operator.js';

/** No key but the declared ones came in. */
export const closed: Operator<'closed'> = {
  mentions: () => [],
  judge: (_predicate, judging) => !judging.hasUnknownKeys,
};
