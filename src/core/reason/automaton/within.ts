import { intersect, sizeOf } from '../pattern/ranges.js';
import type { Automaton } from './build.js';

/** Where the outer automaton is large, nothing is seen at once. */
const MOST_OUTER_STATES = 16;

/** True where the outer automaton is seen to accept all that the inner one does; false where it does not, or is large. */
export function isWithin(inner: Automaton, outer: Automaton): boolean {
  if (outer.states.length > MOST_OUTER_STATES) return false;
  const pairs: [inner: number, outer: number][] = [[0, 0]];
  const seen = new Set([0]);
  for (const [from, beside] of pairs) {
    const [own, other] = [inner.states[from], outer.states[beside]];
    if (own === undefined || other === undefined || (own.accepts && !other.accepts)) return false;
    for (const { on, to } of own.moves) {
      let left = sizeOf(on);
      for (const move of other.moves) {
        const common = intersect(on, move.on);
        if (common.length === 0) continue;
        left -= sizeOf(common);
        const pair = to * outer.states.length + move.to;
        if (seen.has(pair)) continue;
        seen.add(pair);
        pairs.push([to, move.to]);
      }
      if (left > 0) return false;
    }
  }
  return true;
}
