import { sizeOf } from '../pattern/ranges.js';
import type { Automaton } from './build.js';
import { readable } from './words.js';

/** A set of lengths: sorted, disjoint, inclusive intervals; the last may have no end. */
export type Lengths = readonly (readonly [from: number, to: number])[];

/** Every length. */
export const anyLength: Lengths = [[0, Number.POSITIVE_INFINITY]];

/** The lengths in both. */
export function bothLengths(a: Lengths, b: Lengths): Lengths {
  return a.flatMap(([from, to]) =>
    b.flatMap(([low, high]) => (low <= to && high >= from ? [[Math.max(from, low), Math.min(to, high)] as const] : [])),
  );
}

/** The lengths that are not in the set. */
export function otherLengths(lengths: Lengths): Lengths {
  const gaps: [number, number][] = [];
  let next = 0;
  for (const [from, to] of lengths) {
    if (from > next) gaps.push([next, from - 1]);
    next = to + 1;
  }
  if (next < Number.POSITIVE_INFINITY) gaps.push([next, Number.POSITIVE_INFINITY]);
  return gaps;
}

/** So many layers are looked at before a question is left undecided. */
const MOST_LAYERS = 50_000;

/** Whether an accepted word of one of the lengths exists: how long the shortest is, or that it was not decided. */
export type Shortest = { readonly length: number } | 'none' | 'undecided';

/**
 * The length of the shortest accepted word whose length is in the set. Reachability by layers: which states lead to an
 * accepting one in exactly so many characters. The layers repeat sooner or later, so that no product of automaton and
 * counter is ever built.
 */
export function shortestLength(automaton: Automaton, lengths: Lengths): Shortest {
  const back = comingFrom(automaton);
  let layer = automaton.states.map(({ accepts }) => accepts);
  const seen = new Map<string, number>();
  const starts: boolean[] = [];
  const end = lengths.at(-1)?.[1] ?? -1;
  for (let length = 0; length <= Math.min(end, MOST_LAYERS); length++) {
    starts.push(layer[0] === true);
    if (layer[0] === true && lengths.some(([from, to]) => from <= length && length <= to)) return { length };
    const key = layer.map(Number).join('');
    const before = seen.get(key);
    if (before !== undefined) return repeating(starts, before, length - before, lengths);
    seen.set(key, length);
    layer = earlier(layer, back);
  }
  return end <= MOST_LAYERS ? 'none' : 'undecided';
}

/** From the layer `first` on, every `period` layers are the same. */
function repeating(starts: readonly boolean[], first: number, period: number, lengths: Lengths): Shortest {
  for (const [from, to] of lengths) {
    for (let length = Math.max(from, first); length <= Math.min(to, Math.max(from, first) + period - 1); length++) {
      if (starts[first + ((length - first) % period)] === true) return { length };
    }
  }
  return 'none';
}

/** For each state, the states that have a move to it. */
function comingFrom({ states }: Automaton): readonly (readonly number[])[] {
  const back: number[][] = states.map(() => []);
  for (const [at, { moves }] of states.entries()) for (const { to } of moves) back[to]?.push(at);
  return back;
}

function earlier(layer: readonly boolean[], back: readonly (readonly number[])[]): boolean[] {
  const next = layer.map(() => false);
  for (const [state, is] of layer.entries()) if (is) for (const from of back[state] ?? []) next[from] = true;
  return next;
}

/** How many words of these lengths there are, counted no further than `most`. */
export function countWords(automaton: Automaton, lengths: Lengths, most: number): number {
  const back = comingFrom(automaton);
  let alive = automaton.states.map(({ accepts }) => accepts);
  for (let before = -1, now = 0; before !== now; ) {
    before = now;
    const more = earlier(alive, back);
    alive = alive.map((is, at) => is || more[at] === true);
    now = alive.filter(Boolean).length;
  }
  const capped = (count: number) => Math.min(count, most);
  let counts: number[] = automaton.states.map((_, state) => (state === 0 ? 1 : 0));
  let total = 0;
  const end = lengths.at(-1)?.[1] ?? -1;
  for (let length = 0; length <= Math.min(end, MOST_LAYERS) && total < most; length++) {
    if (lengths.some(([from, to]) => from <= length && length <= to))
      total += counts.reduce((sum, count, state) => sum + (automaton.states[state]?.accepts ? count : 0), 0);
    const next: number[] = counts.map(() => 0);
    for (const [state, count] of counts.entries()) {
      if (count === 0) continue;
      for (const { on, to } of automaton.states[state]?.moves ?? [])
        if (alive[to] === true) next[to] = capped((next[to] ?? 0) + count * sizeOf(on));
    }
    if (next.every((count) => count === 0)) break;
    counts = next;
  }
  return capped(total);
}

/** An accepted word of exactly so many characters, or null where there is none; `turn` gives other characters. */
export function wordOfLength(automaton: Automaton, length: number, turn = 0): string | null {
  const back = comingFrom(automaton);
  const layers: (readonly boolean[])[] = [automaton.states.map(({ accepts }) => accepts)];
  for (let left = 1; left <= length; left++) layers.push(earlier(layers[left - 1] ?? [], back));
  if (layers[length]?.[0] !== true) return null;
  let word = '';
  let state = 0;
  for (let left = length; left > 0; left--) {
    const moves = (automaton.states[state]?.moves ?? []).filter(({ to }) => layers[left - 1]?.[to] === true);
    const choices = moves.map(({ on, to }) => ({ to, character: readable(on, turn + length - left) }));
    const plain = choices.find(({ character }) => /[0-9A-Za-z]/.test(character));
    const chosen = plain ?? choices[0];
    if (chosen === undefined) return null;
    word += chosen.character;
    state = chosen.to;
  }
  return word;
}
