import { items, type Operator } from './operator.js';

/** False where it is false of any item, true where it is true of all (and over none), else unknown. */
export const each: Operator<'each'> = {
  mentions: ({ over, holds }, inside) => [over, ...inside.predicate(holds)],
  judge({ over, holds }, judging) {
    const truths = items(over, judging).map((item) => item.truth(holds));
    if (truths.includes(false)) return false;
    return truths.includes(null) ? null : true;
  },
};
