import type { Ranges } from '../pattern/ranges.js';
import type { Automaton } from './build.js';

/** An automaton as a table: its alphabet in classes of characters that it never tells apart. */
export interface TransitionTable {
  readonly classes: readonly Ranges[];
  /** The next state by state and class; -1 leads nowhere. */
  readonly next: readonly (readonly number[])[];
  readonly accepting: readonly boolean[];
}

export function tableOf(automaton: Automaton): TransitionTable {
  const { classes, nexts } = together([automaton]);
  return { classes, next: nexts[0] ?? [], accepting: automaton.states.map(({ accepts }) => accepts) };
}

/** Classes that none of several automata tells apart, and the table of each over them. */
function together(automata: readonly Automaton[]) {
  const edges = new Set<number>();
  for (const { states } of automata)
    for (const { moves } of states)
      for (const { on } of moves)
        for (const [from, to] of on) {
          edges.add(from);
          edges.add(to + 1);
        }
  const starts = [...edges].sort((a, b) => a - b);
  const index = new Map(starts.map((start, at) => [start, at]));
  // Where each stretch between two edges leads, from every state.
  const rows = automata.flatMap(({ states }) =>
    states.map(({ moves }) => {
      const row = new Int32Array(starts.length).fill(-1);
      for (const { on, to } of moves)
        for (const [from, until] of on) row.fill(to, index.get(from), index.get(until + 1));
      return row;
    }),
  );
  const groups = new Map<string, { readonly at: number; readonly ranges: [number, number][] }>();
  for (let at = 0; at < starts.length - 1; at++) {
    const signature = rows.map((row) => row[at]).join();
    if (/^(?:-1,?)*$/.test(signature)) continue;
    const range: [number, number] = [starts[at] ?? 0, (starts[at + 1] ?? 0) - 1];
    const group = groups.get(signature);
    const last = group?.ranges.at(-1);
    if (last !== undefined && last[1] + 1 === range[0]) last[1] = range[1];
    else if (group !== undefined) group.ranges.push(range);
    else groups.set(signature, { at, ranges: [range] });
  }
  const found = [...groups.values()];
  let first = 0;
  const nexts = automata.map(({ states }) => {
    const own = rows.slice(first, first + states.length);
    first += states.length;
    return own.map((row) => found.map(({ at }) => row[at] ?? -1));
  });
  return { classes: found.map(({ ranges }): Ranges => ranges), nexts };
}

/** A text that one of two automata accepts and the other doesn't, the shortest there is; null where they are equal. */
export function difference(a: Automaton, b: Automaton): string | null {
  const { classes, nexts } = together([a, b]);
  const [left = [], right = []] = nexts;
  const accepts = ({ states }: Automaton, state: number) => states[state]?.accepts ?? false;
  const seen = new Set(['0 0']);
  const queue: { readonly at: readonly [number, number]; readonly word: string }[] = [{ at: [0, 0], word: '' }];
  for (let one = queue.shift(); one !== undefined; one = queue.shift()) {
    const [p, q] = one.at;
    if (accepts(a, p) !== accepts(b, q)) return one.word;
    for (const [at, set] of classes.entries()) {
      const to = [left[p]?.[at] ?? -1, right[q]?.[at] ?? -1] as const;
      const key = to.join(' ');
      if (key === '-1 -1' || seen.has(key)) continue;
      seen.add(key);
      queue.push({ at: to, word: one.word + String.fromCodePoint(set[0]?.[0] ?? 0) });
    }
  }
  return null;
}
