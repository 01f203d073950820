import { includes } from '../pattern/ranges.js';
import type { Positions } from './positions.js';

/**
 * True where a text is one of a pattern's, or begins with one: all positions are followed at once, so that it takes as
 * many steps as the text has characters. Positions with counted repeats keep when they were entered.
 */
export function follows(positions: Positions, text: string, isPrefix = false): boolean {
  if (positions.nullable && (isPrefix || text === '')) return true;
  let entered: Entered = new Map();
  let at = 0;
  for (const character of text) {
    entered = oneFurther(entered, character.codePointAt(0) ?? 0, at, positions);
    at += 1;
    if (isPrefix && isDone(entered, positions, at)) return true;
    if (entered.size === 0) return false;
  }
  return at > 0 && isDone(entered, positions, at);
}

/** The positions that a text has reached, with the places at which each was entered. */
type Entered = ReadonlyMap<number, readonly number[]>;

/** What is reached with one more character, which is the one at that place. */
function oneFurther(entered: Entered, point: number, at: number, positions: Positions): Entered {
  const { characters, first, follow, counts } = positions;
  const next = new Map<number, readonly number[]>();
  const enter = (position: number, times: readonly number[]) => {
    if (!includes(characters[position] ?? [], point)) return;
    const [, maximum] = counts.get(position) ?? [1, 1];
    const all = [...new Set([...(next.get(position) ?? []), ...times])];
    next.set(
      position,
      all.filter((time) => at - time < maximum).sort((a, b) => a - b),
    );
  };
  if (at === 0) for (const position of first.keys()) enter(position, [at]);
  for (const [position, times] of entered) {
    const [minimum, maximum] = counts.get(position) ?? [1, 1];
    if (maximum > 1) enter(position, times);
    if (times.some((time) => at - time >= minimum)) for (const to of follow[position]?.keys() ?? []) enter(to, [at]);
  }
  return next;
}

function isDone(entered: ReadonlyMap<number, readonly number[]>, { last, counts }: Positions, at: number): boolean {
  return [...entered].some(([position, times]) => {
    const [minimum] = counts.get(position) ?? [1, 1];
    return last.has(position) && times.some((time) => at - time >= minimum);
  });
}
