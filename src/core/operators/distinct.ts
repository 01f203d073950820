import type { Operator } from './operator.js';

/** No item before the one at hand has its value there; unknown where it has none. */
export const distinct: Operator<'distinct'> = {
  mentions: ({ of }) => [of],
  judge({ over, of }, judging) {
    const value = judging.value(of);
    if (value === null) return null;
    const before = Array.from({ length: judging.indexIn(over) }, (_, index) => judging.within(over, index));
    return !before.some((item) => item.value(of) === value);
  },
};
