import type { Pattern } from '../model/index.js';
import type { Operator } from './operator.js';

/** The pattern as ECMAScript reads it, held against the whole value. */
export function wholeValue(pattern: Pattern): RegExp {
  return new RegExp(`^(?:${pattern.source})$`, pattern.flags);
}

/** The whole text is in the pattern's language; unknown where it is absent. */
export const matches: Operator<'matches'> = {
  mentions: ({ of }, inside) => inside.term(of),
  judge({ of, pattern }, judging) {
    const value = judging.term(of);
    return value === null ? null : judging.matcher(pattern).test(String(value));
  },
};
