import type { Operator } from './operator.js';

/** What the function says of the values; unknown where one of them is absent: it is not called then. */
export const custom: Operator<'custom'> = {
  mentions: ({ of }) => of,
  judge({ of, name }, judging) {
    const values = of.map((path) => judging.value(path));
    return values.includes(null) ? null : Boolean(judging.call(name, values));
  },
};
