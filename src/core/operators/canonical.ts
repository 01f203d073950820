import type { Operator } from './operator.js';

/** What came in on the row wire was canonical already; elsewhere it is made so, and this always holds. */
export const canonical: Operator<'canonical'> = {
  mentions: ({ of }) => [of],
  judge: ({ of }, judging) => !judging.notCanonical(of),
};
