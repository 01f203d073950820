import { items, type Operator } from './operator.js';

/** True where it is true of any item, false where it is false of all (and over none), else unknown. */
export const some: Operator<'some'> = {
  mentions: ({ over, holds }, inside) => [over, ...inside.predicate(holds)],
  judge({ over, holds }, judging) {
    const truths = items(over, judging).map((item) => item.truth(holds));
    if (truths.includes(true)) return true;
    return truths.includes(null) ? null : false;
  },
};
