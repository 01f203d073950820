import { exactOf, isMultiple } from '../model/index.js';
import type { Operator } from './operator.js';

/** A whole multiple of the step, counted from zero, without rounding; unknown where the value is absent. */
export const multiple: Operator<'multiple'> = {
  mentions: ({ of }, inside) => inside.term(of),
  judge({ of, step }, judging) {
    const [value, unit] = [exactOf(judging.term(of)), exactOf(step)];
    return value === null || unit === null ? null : isMultiple(value, unit);
  },
};
