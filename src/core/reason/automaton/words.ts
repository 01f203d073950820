import type { Random } from '../../model/index.js';
import { intersect, normalise, type Ranges, sizeOf } from '../pattern/ranges.js';
import type { Automaton, Move } from './build.js';
import { moveOn } from './run.js';

/** Characters that a person can read come first when one is chosen from a set. */
const PREFERRED: readonly Ranges[] = [[[0x30, 0x39]], [[0x41, 0x5a]], [[0x61, 0x7a]], [[0x21, 0x7e]], [[0xa1, 0xd7ff]]];

/** A readable character of the set; `turn` picks another one where there are more. */
export function readable(set: Ranges, turn = 0): string {
  return pick(preferred(set), turn);
}

/** The part of a set that is read best. */
function preferred(set: Ranges): Ranges {
  for (const pool of PREFERRED) {
    const part = intersect(set, pool);
    if (part.length > 0) return part;
  }
  const all = normalise(set);
  return all.length > 0 ? all : [[0x61, 0x61]];
}

function pick(pool: Ranges, turn: number): string {
  let left = turn % sizeOf(pool);
  for (const [from, to] of pool) {
    if (left <= to - from) return String.fromCodePoint(from + left);
    left -= to - from + 1;
  }
  throw new Error('a set without characters');
}

/** A move with the states on both sides of it. */
export interface Step extends Move {
  readonly state: number;
}

/** Of a larger set of characters the first ones are enough. */
const MOST_CHARACTERS = 200;

/** The shortest ways through an automaton: from its first state to each, and from each to an accepting one. */
export class Routes {
  readonly automaton: Automaton;
  readonly #far: readonly number[];
  readonly #depth: readonly number[];
  readonly #pools = new Map<Ranges, Ranges>();
  /** The shortest texts to states, without a turn. */
  readonly #texts = new Map<number, string>();
  readonly #from: readonly (readonly [state: number, move: Move] | null)[];
  /** The states in the order in which they are reached, the nearest first. */
  readonly order: readonly number[];
  #steps: readonly Step[] | null = null;

  constructor(automaton: Automaton) {
    this.automaton = automaton;
    this.#far = distances(automaton);
    const from: (readonly [number, Move] | null)[] = automaton.states.map(() => null);
    const depth: number[] = automaton.states.map(() => 0);
    const order = [0];
    const reached = new Set(order);
    for (const state of order) {
      for (const move of automaton.states[state]?.moves ?? []) {
        if (reached.has(move.to) || !this.leadsOn(move.to)) continue;
        reached.add(move.to);
        from[move.to] = [state, move];
        depth[move.to] = (depth[state] ?? 0) + 1;
        order.push(move.to);
      }
    }
    this.#from = from;
    this.#depth = depth;
    this.order = order;
  }

  /** True where some text is accepted from there. */
  leadsOn(state: number): boolean {
    return Number.isFinite(this.#far[state]);
  }

  /** Every move that leads on, those first that the shortest texts take. */
  get steps(): readonly Step[] {
    if (this.#steps !== null) return this.#steps;
    const length = ({ state, to }: Step) => this.lengthTo(state) + this.lengthFrom(to);
    const steps = this.order.flatMap((state) =>
      (this.automaton.states[state]?.moves ?? [])
        .filter(({ to }) => this.leadsOn(to))
        .map(({ on, to }): Step => ({ state, on, to })),
    );
    this.#steps = steps.sort((a, b) => length(a) - length(b));
    return this.#steps;
  }

  /** A readable character that a move is made on. */
  characterOf(on: Ranges, turn: number): string {
    const known = this.#pools.get(on) ?? preferred(on);
    this.#pools.set(on, known);
    return pick(known, turn);
  }

  /** All the readable characters that a move is made on, or the first of very many. */
  charactersOf(on: Ranges): readonly string[] {
    const known = this.#pools.get(on) ?? preferred(on);
    this.#pools.set(on, known);
    return Array.from({ length: Math.min(sizeOf(known), MOST_CHARACTERS) }, (_, at) => pick(known, at));
  }

  /** How many characters the shortest text to a state has. */
  lengthTo(state: number): number {
    return this.#depth[state] ?? 0;
  }

  /** How many characters the shortest accepted text from a state has. */
  lengthFrom(state: number): number {
    return this.#far[state] ?? 0;
  }

  /** Those of the moves behind which a text may end within so many characters. */
  withinFrom(moves: readonly Move[], most: number): readonly Move[] {
    // All of them, most of the time.
    for (const { to } of moves)
      if (!this.#isWithin(to, most)) return moves.filter((one) => this.#isWithin(one.to, most));
    return moves;
  }

  #isWithin(state: number, most: number): boolean {
    return this.leadsOn(state) && this.lengthFrom(state) <= most;
  }

  /** The states that the shortest way to a state goes through, with the move into each. */
  #wayTo(state: number): readonly Move[] {
    const way: Move[] = [];
    for (let step = this.#from[state] ?? null; step !== null; step = this.#from[step[0]] ?? null) way.push(step[1]);
    return way.reverse();
  }

  /** A shortest text that leads to a state; `turn` gives other characters. */
  to(state: number, turn = 0): string {
    const known = turn === 0 ? this.#texts.get(state) : undefined;
    if (known !== undefined) return known;
    const text = this.#wayTo(state)
      .map(({ on }, at) => this.characterOf(on, turn + at))
      .join('');
    if (turn === 0) this.#texts.set(state, text);
    return text;
  }

  /** A shortest text that is accepted from a state on, `written` characters having been written before. */
  onFrom(state: number, written: number, turn = 0): string {
    const nearest = (moves: readonly Move[]) =>
      moves.reduce((best, one) => ((this.#far[one.to] ?? 0) < (this.#far[best.to] ?? 0) ? one : best));
    let text = '';
    let at = state;
    for (let length = written; this.automaton.states[at]?.accepts !== true; length += 1) {
      const best = nearest(this.automaton.states[at]?.moves ?? []);
      text += this.characterOf(best.on, turn + length);
      at = best.to;
    }
    return text;
  }
}

/** How long a drawn text is wanted, where the automaton lets it end earlier or later. */
export interface Wanted {
  readonly least: number;
  readonly most: number;
  /** From this length on it ends as soon as it may. */
  readonly usual: number;
}

/** A text at random that is accepted; null where none of the lengths was found on the way taken. */
export function drawWord(routes: Routes, { least, most, usual }: Wanted, random: Random): string | null {
  const { states } = routes.automaton;
  let text = '';
  let state = 0;
  for (let length = 0; length <= most; length += 1) {
    const { accepts = false, moves = [] } = states[state] ?? {};
    const room = most - length - 1;
    const fitting = routes.withinFrom(moves, room);
    const mayEnd = accepts && length >= least;
    if (mayEnd && (fitting.length === 0 || length >= usual || random.next() < 0.2)) return text;
    if (fitting.length === 0) return null;
    const { on, to } = random.pick(fitting);
    text += routes.characterOf(on, random.below(2 ** 16));
    state = to;
  }
  return null;
}

/** For each state, how many characters the shortest accepted text from it has; infinite where there is none. */
function distances({ states }: Automaton): readonly number[] {
  const far: number[] = states.map(() => Number.POSITIVE_INFINITY);
  const back: number[][] = states.map(() => []);
  for (const [at, { moves }] of states.entries()) for (const { to } of moves) back[to]?.push(at);
  const queue = states.flatMap(({ accepts }, at) => (accepts ? [at] : []));
  for (const state of queue) far[state] = 0;
  for (const state of queue) {
    for (const before of back[state] ?? []) {
      if (Number.isFinite(far[before])) continue;
      far[before] = (far[state] ?? 0) + 1;
      queue.push(before);
    }
  }
  return far;
}

/**
 * Accepted words that together take every move of the automaton, the shortest first, at most `most` of them. `turn`
 * gives other characters of the same sets.
 */
export function coveringWords(automaton: Automaton, most: number, turn = 0): readonly string[] {
  return transitionWords(new Routes(automaton), most, turn);
}

/** Words that take the moves on several ranges of characters by each of the first ranges, the shortest first. */
export function rangeWords(routes: Routes, most: number): readonly string[] {
  const words = new Set<string>();
  for (const { state, on, to } of routes.steps.filter((step) => step.on.length > 1)) {
    for (const range of on.slice(0, MOST_RANGES)) {
      if (words.size >= most) return [...words];
      words.add(routes.to(state) + readable([range]) + routes.onFrom(to, routes.lengthTo(state) + 1));
    }
  }
  return [...words];
}

/** So many ranges of a set are taken. */
const MOST_RANGES = 3;

/**
 * Words that take every move that leads on, each by the shortest way to it and the shortest one from there; the shortest
 * words first, at most `most`.
 */
export function transitionWords(routes: Routes, most: number, turn = 0): readonly string[] {
  const words = new Set<string>(routes.automaton.states[0]?.accepts ? [''] : []);
  const taken = new Set<number>();
  for (const step of routes.steps) {
    if (words.size >= most) break;
    if (taken.has(numberOf(routes.automaton, step.state, step))) continue;
    const length = routes.lengthTo(step.state);
    const before = routes.to(step.state, turn) + routes.characterOf(step.on, turn + length);
    const word = before + routes.onFrom(step.to, length + 1, turn);
    for (const one of movesOf(routes.automaton, word)) taken.add(one);
    words.add(word);
  }
  return [...words];
}

/** Of words, those that it takes to take every move that all of them take: the longest first, as it takes the most. */
export function fewest(automaton: Automaton, words: readonly string[]): readonly string[] {
  const taken = new Set<number>();
  const needed = [...words].reverse().filter((word) => {
    const before = taken.size;
    for (const move of movesOf(automaton, word)) taken.add(move);
    return taken.size > before;
  });
  return needed.reverse();
}

/** The moves that a text takes, a number for each: of its state and where it leads. */
export function movesOf(automaton: Automaton, text: string): readonly number[] {
  const moves: number[] = [];
  let state = 0;
  for (const character of text) {
    const move = moveOn(automaton.states[state]?.moves ?? [], character.codePointAt(0) ?? 0);
    if (move === null) break;
    moves.push(numberOf(automaton, state, move));
    state = move.to;
  }
  return moves;
}

function numberOf({ states }: Automaton, state: number, { to }: Move): number {
  return state * states.length + to;
}
