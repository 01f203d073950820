import type { Pattern } from '../model/index.js';
import { type Automaton, intersection, type Routes, routesThrough } from '../reason/index.js';

/** The automata of patterns, each built once. */
export class Grammars {
  readonly #routes = new Map<string, Routes | null>();
  readonly #together = new Map<string, Automaton | null>();

  /** The ways through a pattern's automaton; null where it is not regular, or too large. */
  routesOf(pattern: Pattern): Routes | null {
    const key = keyOf(pattern);
    const known = this.#routes.get(key);
    if (known !== undefined) return known;
    const routes = routesThrough(pattern);
    this.#routes.set(key, routes);
    return routes;
  }

  /** The texts that all of some patterns take; null where one of them has no automaton. At least one is given. */
  together(patterns: readonly Pattern[]): Automaton | null {
    const key = patterns.map(keyOf).join('\n');
    const known = this.#together.get(key);
    if (known !== undefined) return known;
    const automata = patterns.flatMap((pattern) => this.routesOf(pattern)?.automaton ?? []);
    const both = automata.length < patterns.length ? null : automata.reduce((a, b) => intersection(a, b));
    this.#together.set(key, both);
    return both;
  }
}

function keyOf({ source, flags }: Pattern): string {
  return `${flags}/${source}`;
}
