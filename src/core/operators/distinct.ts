import type { Operator } from './operator.js';

/** No item before the one at hand has its value there; unknown where it has none. */
export const distinct: Operator<'distinct'> = {
  mentions: ({ of }) => [of],
  judge({ over, of }, judging) {
    const value = judging.value(of);
    return value === null ? null : judging.firstWith(over, of, value) === judging.indexIn(over);
  },
};
