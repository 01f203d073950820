import { type Automaton, normalise, type Ranges, type TransitionTable, tableOf } from '../../reason/index.js';

/** So many of the first characters are told by a class each. */
const MOST_PREFIX = 12;
/** Lengths are followed one by one up to this. */
const MOST_LENGTH = 600;
/** A larger automaton says more than windows do. */
const MOST_STATES = 200;
/** More windows than this are harder to read than a walk. */
const MOST_WINDOWS = 12;

/** What can be said of a text by looking at few neighbouring characters at a time. */
export interface Windows {
  readonly shortest: number;
  /** Infinity where there is no end. */
  readonly longest: number;
  readonly characters: Ranges;
  /** The classes of the first characters, as far as every text has them. */
  readonly prefix: readonly Ranges[];
  readonly last: Ranges;
  /** Pairs of neighbours that no text has. */
  readonly forbidden: readonly (readonly [Ranges, Ranges])[];
}

/**
 * A language by its windows, where that says all of it: neighbours that may stand together, the first characters, the
 * last one, and the length ("strictly locally testable", McNaughton and Papert 1971). Null where some text keeps to all
 * of that and is not accepted: it is looked for in every state that such a text can lead to.
 */
export function windowsOf(automaton: Automaton): Windows | null {
  if (automaton.states.length > MOST_STATES) return null;
  const table = tableOf(automaton);
  const lengths = lengthsOf(table);
  if (lengths === null || table.classes.length > 64) return null;
  const { shortest, longest } = lengths;
  if (shortest > MOST_LENGTH || (Number.isFinite(longest) && longest > MOST_LENGTH)) return null;
  const prefix = prefixOf(table, Math.min(shortest, MOST_PREFIX));
  const neighbours = neighboursOf(table);
  const last = new Set(
    table.next.flatMap((row) => row.flatMap((to, at) => (to >= 0 && table.accepting[to] === true ? [at] : []))),
  );
  if (escapes(table, { shortest, longest, prefix, neighbours, last })) return null;
  const forbidden = forbiddenPairs(table, neighbours);
  if (forbidden.length > MOST_WINDOWS) return null;
  const united = (classes: Iterable<number>) => normalise([...classes].flatMap((at) => table.classes[at] ?? []));
  return {
    shortest,
    longest,
    characters: united(table.classes.keys()),
    prefix: prefix.map(united),
    last: united(last),
    forbidden: forbidden.map(([before, after]) => [united(before), united(after)] as const),
  };
}

/** The least and the greatest length of an accepted text; null where there is none. */
function lengthsOf({ next, accepting }: TransitionTable): { shortest: number; longest: number } | null {
  const useful = usefulStates(next, accepting);
  if (!useful.has(0)) return null;
  const after = (state: number) => [...new Set(next[state])].filter((to) => useful.has(to));
  let shortest = 0;
  const seen = new Set([0]);
  for (let layer = [0]; !layer.some((state) => accepting[state] === true); shortest += 1) {
    layer = [...new Set(layer.flatMap(after))].filter((state) => !seen.has(state));
    for (const state of layer) seen.add(state);
  }
  return { shortest, longest: longestFrom(0, after, new Map()) };
}

/** The states that lead to an accepting one. */
function usefulStates(next: TransitionTable['next'], accepting: readonly boolean[]): ReadonlySet<number> {
  const before = next.map((): number[] => []);
  next.forEach((row, state) => {
    for (const to of new Set(row)) if (to >= 0) before[to]?.push(state);
  });
  const useful = new Set(accepting.flatMap((accepts, state) => (accepts ? [state] : [])));
  for (const state of useful) for (const one of before[state] ?? []) useful.add(one);
  return useful;
}

/** The longest way on from a state; infinity where it goes round a circle. Every useful way ends in an accepting one. */
function longestFrom(
  state: number,
  after: (state: number) => readonly number[],
  known: Map<number, number | 'open'>,
): number {
  const there = known.get(state);
  if (there === 'open') return Number.POSITIVE_INFINITY;
  if (there !== undefined) return there;
  known.set(state, 'open');
  const longest = Math.max(0, ...after(state).map((to) => 1 + longestFrom(to, after, known)));
  known.set(state, longest);
  return longest;
}

function prefixOf({ next }: TransitionTable, length: number): readonly ReadonlySet<number>[] {
  const prefix: Set<number>[] = [];
  let layer = new Set([0]);
  for (let at = 0; at < length; at++) {
    const classes = new Set<number>();
    const after = new Set<number>();
    for (const state of layer)
      (next[state] ?? []).forEach((to, one) => {
        if (to < 0) return;
        classes.add(one);
        after.add(to);
      });
    prefix.push(classes);
    layer = after;
  }
  return prefix;
}

/** For each class the classes that may follow it. */
function neighboursOf({ next, classes }: TransitionTable): readonly ReadonlySet<number>[] {
  const after = classes.map(() => new Set<number>());
  for (const row of next) {
    row.forEach((to, one) => {
      if (to < 0) return;
      (next[to] ?? []).forEach((then, two) => {
        if (then >= 0) after[one]?.add(two);
      });
    });
  }
  return after;
}

interface Kept {
  readonly shortest: number;
  readonly longest: number;
  readonly prefix: readonly ReadonlySet<number>[];
  readonly neighbours: readonly ReadonlySet<number>[];
  readonly last: ReadonlySet<number>;
}

/** Where the reading of a text is: the state, and the class of its last character; -1 where there is none. */
type Reached = readonly [state: number, klass: number];

/** True where some text keeps to all windows and is not accepted. */
function escapes(table: TransitionTable, kept: Kept): boolean {
  const { shortest, longest, prefix } = kept;
  // Beyond the prefix and the least length only the state and the last class count.
  const settled = Math.max(prefix.length, shortest);
  const seen = new Set<string>();
  let layer: ReadonlyMap<string, Reached> = new Map([['0 -1', [0, -1]]]);
  for (let length = 0; layer.size > 0 && length <= longest; length++) {
    for (const reached of layer.values()) if (isJudgedWrong(reached, length, table, kept)) return true;
    const after = oneLonger(layer, length, table, kept);
    layer = longest === Number.POSITIVE_INFINITY && length + 1 > settled ? unseen(after, seen) : after;
  }
  return false;
}

/** True where the windows let a text end that is not accepted, or the other way round. */
function isJudgedWrong([state, klass]: Reached, length: number, { accepting }: TransitionTable, kept: Kept): boolean {
  const ends = length >= kept.shortest && (length === 0 || kept.last.has(klass));
  const accepts = state >= 0 && accepting[state] === true;
  return ends !== accepts && (ends || length >= kept.shortest);
}

/** What is reached by one more character that the windows allow. */
function oneLonger(
  layer: ReadonlyMap<string, Reached>,
  length: number,
  { next, classes }: TransitionTable,
  { prefix, neighbours }: Kept,
): ReadonlyMap<string, Reached> {
  const all = new Set(classes.keys());
  const after = new Map<string, Reached>();
  for (const [state, klass] of layer.values()) {
    const allowed = klass < 0 ? all : (neighbours[klass] ?? all);
    for (const one of allowed) {
      if (length < prefix.length && prefix[length]?.has(one) !== true) continue;
      const to = state < 0 ? -1 : (next[state]?.[one] ?? -1);
      after.set(`${to} ${one}`, [to, one]);
    }
  }
  return after;
}

/** What was not reached before, which is noted. */
function unseen(layer: ReadonlyMap<string, Reached>, seen: Set<string>): ReadonlyMap<string, Reached> {
  const fresh = new Map([...layer].filter(([key]) => !seen.has(key)));
  for (const key of fresh.keys()) seen.add(key);
  return fresh;
}

/** Pairs that never stand together, gathered where what may not follow is the same. */
function forbiddenPairs({ classes }: TransitionTable, neighbours: readonly ReadonlySet<number>[]) {
  const groups = new Map<string, { readonly before: number[]; readonly after: readonly number[] }>();
  for (const [at, allowed] of neighbours.entries()) {
    const after = [...classes.keys()].filter((one) => !allowed.has(one));
    if (after.length === 0) continue;
    const group = groups.get(after.join());
    if (group === undefined) groups.set(after.join(), { before: [at], after });
    else group.before.push(at);
  }
  return [...groups.values()].map(({ before, after }) => [before, after] as const);
}
