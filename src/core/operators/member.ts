import type { Operator } from './operator.js';

/** Equal to one of a closed list; unknown where the value is absent. */
export const member: Operator<'member'> = {
  mentions: ({ of }, inside) => inside.term(of),
  judge({ of, among }, judging) {
    const value = judging.term(of);
    return value === null ? null : among.includes(value);
  },
};
