import { compareExact, type Domain, exactOf, type Value } from '../model/index.js';

/**
 * Negative, zero or positive as `a` stands before, at or after `b`. Numbers by size, without rounding; days and times by
 * their canonical text. Text has equality only, so its sign says no more than "another".
 */
export function order(domain: Domain, a: Value, b: Value): number {
  if (domain === 'number') {
    // Two numbers stand to each other as their shortest decimal texts do.
    if (typeof a === 'number' && typeof b === 'number') return a < b ? -1 : a > b ? 1 : 0;
    const [left, right] = [exactOf(a), exactOf(b)];
    return left === null || right === null ? Number.NaN : compareExact(left, right);
  }
  const [left, right] = domain === 'time' || domain === 'instant' || domain === 'local' ? [fine(a), fine(b)] : [a, b];
  if (left === right) return 0;
  return String(left) < String(right) ? -1 : 1;
}

/** A time with seconds and without the zeros that end its fraction, so that any two compare. */
function fine(moment: Value): string {
  return String(moment)
    .replace(/^[0-9]{2}:[0-9]{2}$/, '$&:00')
    .replace(/Z$/, '')
    .replace(/(\.[0-9]*?)0+$/, '$1')
    .replace(/\.$/, '');
}

/** A–Z in small letters: the only folding that every engine does alike. */
export function foldCase(text: string): string {
  return text.replace(/[A-Z]/g, (letter) => letter.toLowerCase());
}
