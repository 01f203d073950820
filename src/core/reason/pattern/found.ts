import type { Pattern, Predicate } from '../../model/index.js';

/** The patterns that a predicate asks for, wherever they stand in it. */
export function patternsIn(predicate: Predicate): readonly Pattern[] {
  const found: Pattern[] = [];
  const walk = (part: unknown): void => {
    if (typeof part !== 'object' || part === null) return;
    if ('op' in part && part.op === 'matches' && 'pattern' in part) found.push(part.pattern as Pattern);
    for (const inner of Object.values(part)) walk(inner);
  };
  walk(predicate);
  return found;
}
