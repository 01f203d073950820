import { intersect, type Ranges } from '../pattern/ranges.js';
import { type Routes, readable } from './words.js';

/** A shortest accepted text with a character of the set in it; null where there is none. */
export function textHolding(routes: Routes, characters: Ranges): string | null {
  let best: { readonly state: number; readonly common: Ranges; readonly to: number } | null = null;
  let shortest = Number.POSITIVE_INFINITY;
  for (const state of routes.order) {
    for (const { on, to } of routes.automaton.states[state]?.moves ?? []) {
      const length = routes.lengthTo(state) + routes.lengthFrom(to);
      if (!routes.leadsOn(to) || length >= shortest) continue;
      const common = intersect(on, characters);
      if (common.length > 0) [best, shortest] = [{ state, common, to }, length];
    }
  }
  if (best === null) return null;
  const before = routes.lengthTo(best.state);
  return routes.to(best.state) + readable(best.common, before) + routes.onFrom(best.to, before + 1);
}
