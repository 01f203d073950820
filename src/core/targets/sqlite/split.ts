import type { Automaton, Ranges } from '../../reason/index.js';

/** A text that is told by what stands before and behind the first of a separator. */
export interface Split {
  /** The separator's code point. */
  readonly at: number;
  /** Texts without it. */
  readonly whole: Automaton;
  readonly before: Automaton;
  readonly behind: Automaton;
}

/**
 * Where an automaton can be split: a character that leads to one state from wherever it first comes. What follows then
 * does not depend on what was before, and the two parts can be judged each by itself.
 */
export function splitsOf(automaton: Automaton): readonly Split[] {
  return separatorsOf(automaton).flatMap((at) => {
    const isSeparator = ({ on }: Automaton['states'][number]['moves'][number]) =>
      on.some(([from, to]) => from <= at && at <= to);
    const without: Automaton = {
      states: automaton.states.map(({ accepts, moves }) => ({
        accepts,
        moves: moves.flatMap((move) => {
          const on = move.on.flatMap(([from, to]): readonly (readonly [number, number])[] =>
            at < from || at > to
              ? [[from, to]]
              : [...(from < at ? [[from, at - 1] as const] : []), ...(to > at ? [[at + 1, to] as const] : [])],
          );
          return on.length === 0 ? [] : [{ on, to: move.to }];
        }),
      })),
    };
    const first = reachable(without, 0);
    const targets = new Map(
      [...first].flatMap((state) => {
        const move = automaton.states[state]?.moves.find(isSeparator);
        return move === undefined ? [] : [[state, move.to] as const];
      }),
    );
    const [then] = targets.values();
    if (then === undefined || [...targets.values()].some((to) => to !== then)) return [];
    const whole = trimmed(without, 0);
    const ends = { states: without.states.map((state, index) => ({ ...state, accepts: targets.has(index) })) };
    const before = trimmed(ends, 0);
    const behind = trimmed(automaton, then);
    return [{ at, whole, before, behind }];
  });
}

/** The classes of the characters that every text begins with, as far as all lead the same way, and what follows. */
export function prefixOf(automaton: Automaton): { readonly prefix: readonly Ranges[]; readonly rest: Automaton } {
  const prefix: Ranges[] = [];
  let state = 0;
  for (let seen = new Set([0]); ; seen.add(state)) {
    const { accepts = false, moves = [] } = automaton.states[state] ?? {};
    const [only, ...others] = moves;
    if (accepts || only === undefined || others.length > 0 || seen.has(only.to)) break;
    prefix.push(only.on);
    state = only.to;
  }
  return { prefix, rest: trimmed(automaton, state) };
}

/** The languages of the ways that lead from the first state: each of those texts, and the empty one if it is accepted. */
export function branchesOf({ states }: Automaton): readonly Automaton[] {
  const [first] = states;
  if (first === undefined) return [];
  // A new first state: nothing leads back to it.
  const from = (moves: typeof first.moves, accepts: boolean) =>
    trimmed({ states: [...states, { accepts, moves }] }, states.length);
  const ways = first.moves.map((move) => from([move], false));
  return first.accepts ? [from([], true), ...ways] : ways;
}

/** Characters that a move takes alone. */
function separatorsOf({ states }: Automaton): readonly number[] {
  const alone = states.flatMap(({ moves }) =>
    moves.flatMap(({ on }) => (on.length === 1 && on[0] !== undefined && on[0][0] === on[0][1] ? [on[0][0]] : [])),
  );
  const isWord = (point: number) => /[\p{L}\p{N}]/u.test(String.fromCodePoint(point));
  // A mark between words separates more often than a letter does.
  return [...new Set(alone)].sort((a, b) => Number(isWord(a)) - Number(isWord(b)));
}

function reachable({ states }: Automaton, from: number): ReadonlySet<number> {
  const seen = new Set([from]);
  for (const state of seen) for (const { to } of states[state]?.moves ?? []) seen.add(to);
  return seen;
}

/** The states that lead from the first to an accepting one, renumbered. */
function trimmed({ states }: Automaton, from: number): Automaton {
  const useful = new Set(states.flatMap(({ accepts }, state) => (accepts ? [state] : [])));
  for (let before = -1; before !== useful.size; ) {
    before = useful.size;
    states.forEach(({ moves }, state) => {
      if (moves.some(({ to }) => useful.has(to))) useful.add(state);
    });
  }
  const kept = [...reachable({ states }, from)].filter((state) => useful.has(state) || state === from);
  const numbers = new Map(kept.map((state, at) => [state, at]));
  return {
    states: kept.map((state) => ({
      accepts: states[state]?.accepts ?? false,
      moves: (states[state]?.moves ?? []).flatMap(({ on, to }) => {
        const number = useful.has(to) ? numbers.get(to) : undefined;
        return number === undefined ? [] : [{ on, to: number }];
      }),
    })),
  };
}
