import type { Domain, Value } from '../model/index.js';

/**
 * Negative, zero or positive as `a` stands before, at or after `b`. Numbers by size; ISO dates of four-digit years by
 * their text. Text has equality only, so its sign says no more than "another".
 */
export function order(domain: Domain, a: Value, b: Value): number {
  if (domain === 'number') return Number(a) - Number(b);
  if (a === b) return 0;
  return String(a) < String(b) ? -1 : 1;
}
