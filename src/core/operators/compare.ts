import type { Comparator } from '../model/index.js';
import type { Operator } from './operator.js';
import { order } from './order.js';

const holds: { readonly [C in Comparator]: (sign: number) => boolean } = {
  '=': (sign) => sign === 0,
  '<': (sign) => sign < 0,
  '<=': (sign) => sign <= 0,
  '>': (sign) => sign > 0,
  '>=': (sign) => sign >= 0,
};

/** Unknown where either side is absent. */
export const compare: Operator<'compare'> = {
  mentions: ({ left, right }, inside) => [...inside.term(left), ...inside.term(right)],
  judge({ left, by, right, domain }, judging) {
    const a = judging.term(left);
    const b = judging.term(right);
    return a === null || b === null ? null : holds[by](order(domain, a, b));
  },
};
