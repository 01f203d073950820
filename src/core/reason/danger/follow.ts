import { includes } from '../pattern/ranges.js';
import type { Positions } from './positions.js';

/**
 * True where a text is one of a pattern's, or begins with one: all positions are followed at once, so that it takes as
 * many steps as the text has characters. Positions with counted repeats keep when they were entered.
 */
export function follows(positions: Positions, text: string, isPrefix = false): boolean {
  const { characters, first, follow, nullable, counts } = positions;
  if (nullable && (isPrefix || text === '')) return true;
  let entered = new Map<number, readonly number[]>();
  let at = 0;
  for (const character of text) {
    const point = character.codePointAt(0) ?? 0;
    const next = new Map<number, readonly number[]>();
    const enter = (position: number, times: readonly number[]) => {
      if (!includes(characters[position] ?? [], point)) return;
      const [, most] = counts.get(position) ?? [1, 1];
      const known = next.get(position) ?? [];
      next.set(
        position,
        [...new Set([...known, ...times])].filter((time) => at - time < most).sort((a, b) => a - b),
      );
    };
    if (at === 0) for (const position of first.keys()) enter(position, [at]);
    for (const [position, times] of entered) {
      const [least, most] = counts.get(position) ?? [1, 1];
      if (most > 1) enter(position, times);
      if (times.some((time) => at - time >= least)) for (const to of follow[position]?.keys() ?? []) enter(to, [at]);
    }
    entered = next;
    at += 1;
    if (isPrefix && isDone(entered, positions, at)) return true;
    if (entered.size === 0) return false;
  }
  return at > 0 && isDone(entered, positions, at);
}

function isDone(entered: ReadonlyMap<number, readonly number[]>, { last, counts }: Positions, at: number): boolean {
  return [...entered].some(([position, times]) => {
    const [least] = counts.get(position) ?? [1, 1];
    return last.has(position) && times.some((time) => at - time >= least);
  });
}
