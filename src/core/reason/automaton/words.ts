import { intersect, normalise, type Ranges } from '../pattern/ranges.js';
import type { Automaton } from './build.js';

/** Characters that a person can read come first when one is chosen from a set. */
const PREFERRED: readonly Ranges[] = [[[0x30, 0x39]], [[0x41, 0x5a]], [[0x61, 0x7a]], [[0x21, 0x7e]], [[0xa1, 0xd7ff]]];

/** A readable character of the set; `turn` picks another one where there are more. */
export function readable(set: Ranges, turn = 0): string {
  const pools = [...PREFERRED.map((pool) => intersect(set, pool)), normalise(set)].filter((pool) => pool.length > 0);
  let left = turn;
  for (const [from, to] of pools[0] ?? [[0x61, 0x61] as const]) {
    if (left <= to - from) return String.fromCodePoint(from + left);
    left -= to - from + 1;
  }
  return readable(set, turn % Math.max(pools[0]?.reduce((sum, [from, to]) => sum + to - from + 1, 0) ?? 1, 1));
}

/** For each state the shortest way to an accepting one: how many characters, and the first move. */
function distances(automaton: Automaton): readonly number[] {
  const far: number[] = automaton.states.map(({ accepts }) => (accepts ? 0 : Number.POSITIVE_INFINITY));
  for (let changed = true; changed; ) {
    changed = false;
    automaton.states.forEach(({ moves }, state) => {
      const best = Math.min(...moves.map(({ to }) => (far[to] ?? 0) + 1), far[state] ?? 0);
      if (best < (far[state] ?? 0)) {
        far[state] = best;
        changed = true;
      }
    });
  }
  return far;
}

/**
 * Accepted words that together take every move of the automaton, the shortest first, at most `most` of them. `turn`
 * gives other characters of the same sets.
 */
export function coveringWords(automaton: Automaton, most: number, turn = 0): readonly string[] {
  const far = distances(automaton);
  const finish = (state: number, written: number): string => {
    if (automaton.states[state]?.accepts) return '';
    const best = [...(automaton.states[state]?.moves ?? [])].sort((a, b) => (far[a.to] ?? 0) - (far[b.to] ?? 0))[0];
    return best === undefined ? '' : readable(best.on, turn + written) + finish(best.to, written + 1);
  };
  const reached = new Map<number, string>([[0, '']]);
  const queue = [0];
  const words = new Set<string>(automaton.states[0]?.accepts ? [''] : []);
  for (let state = queue.shift(); state !== undefined; state = queue.shift()) {
    for (const { on, to } of automaton.states[state]?.moves ?? []) {
      if (far[to] === Number.POSITIVE_INFINITY) continue;
      const before = reached.get(state) ?? '';
      const prefix = `${before}${readable(on, turn + before.length)}`;
      words.add(prefix + finish(to, prefix.length));
      if (reached.has(to)) continue;
      reached.set(to, prefix);
      queue.push(to);
    }
  }
  return [...words].sort((a, b) => a.length - b.length).slice(0, most);
}
