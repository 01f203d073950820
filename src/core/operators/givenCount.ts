import type { Operator } from './operator.js';

/** Two-valued: at least `from` and at most `to` of the fields are given. */
export const givenCount: Operator<'givenCount'> = {
  mentions: ({ of }) => of,
  judge({ of, from, to }, judging) {
    const count = of.filter((path) => judging.value(path) !== null).length;
    return count >= from && count <= to;
  },
};
