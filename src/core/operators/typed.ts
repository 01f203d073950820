import type { Operator } from './operator.js';

/** What came in was in the grammar of the field's kind. */
export const typed: Operator<'typed'> = {
  mentions: ({ of }) => [of],
  judge: ({ of }, judging) => !judging.refusedAtDecode(of),
};
