import type { Operator } from './operator.js';

/** Two-valued: a value is there, or it is not. */
export const given: Operator<'given'> = {
  mentions: ({ of }) => [of],
  judge: ({ of }, judging) => judging.value(of) !== null,
};
