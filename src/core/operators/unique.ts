import type { Operator } from './operator.js';

/** No other stored row has the same values; unknown without a store, and where any of the values is absent. */
export const unique: Operator<'unique'> = {
  mentions: ({ of }) => of,
  judge({ of }, judging) {
    const rows = judging.stored(null);
    if (rows === null || of.some((path) => judging.value(path) === null)) return null;
    return !rows.some((row) => of.every((path) => row[path] === judging.value(path)));
  },
};
