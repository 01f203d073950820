import type { Pattern } from '../model/index.js';
import { intersection, NotRegular, Routes, routesThrough, transitionWords, wordOfLength } from '../reason/index.js';

/** So many texts of a pattern are made with one turn of its characters. */
const MOST_WORDS = 24;

/** The automata of patterns, each built once. */
export class Grammars {
  readonly #routes = new Map<string, Routes | null>();
  /** The same by the pattern itself, which is found sooner. */
  readonly #byPattern = new Map<Pattern, Routes | null>();
  readonly #words = new Map<string, readonly string[]>();
  readonly #exact = new Map<string, string | null>();
  readonly #together = new Map<string, Routes | null>();

  /** The ways through a pattern's automaton; null where it is not regular, or too large. */
  routesOf(pattern: Pattern): Routes | null {
    const same = this.#byPattern.get(pattern);
    if (same !== undefined) return same;
    const key = keyOf(pattern);
    const known = this.#routes.get(key);
    const routes = known === undefined ? routesThrough(pattern) : known;
    this.#routes.set(key, routes);
    this.#byPattern.set(pattern, routes);
    return routes;
  }

  /** Short texts of a pattern that take the moves of its automaton; `turn` gives other characters. None without one. */
  wordsOf(pattern: Pattern, turn: number): readonly string[] {
    const key = `${turn} ${keyOf(pattern)}`;
    const routes = this.routesOf(pattern);
    const words = this.#words.get(key) ?? (routes === null ? [] : transitionWords(routes, MOST_WORDS, turn));
    this.#words.set(key, words);
    return words;
  }

  /** A text of a pattern of just so many characters; null where there is none. `turn` gives other characters. */
  wordOfLength(pattern: Pattern, length: number, turn: number): string | null {
    const key = `${turn} ${length} ${keyOf(pattern)}`;
    const known = this.#exact.get(key);
    if (known !== undefined) return known;
    const routes = this.routesOf(pattern);
    const word = routes === null ? null : wordOfLength(routes.automaton, length, turn);
    this.#exact.set(key, word);
    return word;
  }

  /** The ways through the texts that all of some patterns take; null where they have no automaton. At least one is given. */
  together(patterns: readonly Pattern[]): Routes | null {
    const key = patterns.map(keyOf).join('\n');
    const known = this.#together.get(key);
    if (known !== undefined) return known;
    const before = patterns.length > 1 ? this.together(patterns.slice(0, -1)) : null;
    const last = this.routesOf(patterns.at(-1) as Pattern);
    const routes = patterns.length > 1 ? routesOfBoth(before, last) : last;
    this.#together.set(key, routes);
    return routes;
  }
}

/** The ways through what both take; null where one is not known, or both together would be too large. */
function routesOfBoth(one: Routes | null, other: Routes | null): Routes | null {
  if (one === null || other === null) return null;
  try {
    return new Routes(intersection(one.automaton, other.automaton));
  } catch (error) {
    if (error instanceof NotRegular) return null;
    throw error;
  }
}

function keyOf({ source, flags }: Pattern): string {
  return `${flags}/${source}`;
}
