import type { Grammars } from '../cases/grammars.js';
import { addDays, type KnownField, valueDomain, valueField, valuesOf } from '../kinds/index.js';
import type { Pattern, Value } from '../model/index.js';
import type { Routes } from '../reason/index.js';

/** So many values of a field are gone through at most, and texts of a pattern are so long. */
const MOST_VALUES = 20_000;
const MOST_LENGTH = 16;

/** The values of a field one after the other, as far as they can be counted off: what is left when drawing finds no more. */
export function* seriesOf(field: KnownField, grammars: Grammars): Iterable<Value> {
  const inner = valueField(field);
  const few = valuesOf(inner);
  if (few !== null) yield* few;
  else if (inner.facets.pattern != null) yield* wordsOf(inner, grammars.routesOf(inner.facets.pattern as Pattern));
  else yield* (counted[valueDomain(field)] ?? nothing)(inner);
}

function* nothing(): Iterable<Value> {}

const counted: { readonly [domain: string]: (field: KnownField) => Iterable<Value> } = {
  *number({ facets: { min, max, step } }) {
    const by = Number(step ?? 1);
    const first = Math.ceil(Number(min ?? 1) / by);
    for (let at = 0; at < MOST_VALUES && (first + at) * by <= Number(max ?? Number.POSITIVE_INFINITY); at += 1)
      yield (first + at) * by;
  },
  *date({ facets: { min, max } }) {
    const first = typeof min === 'string' ? min : '2026-03-02';
    for (let at = 0; at < MOST_VALUES; at += 1) {
      const day = addDays(first, at);
      if (day === null || (typeof max === 'string' && day > max)) return;
      yield day;
    }
  },
};

/** Accepted words, depth first, so that short ones are not all there is. */
function* wordsOf(field: KnownField, routes: Routes | null): Iterable<string> {
  if (routes !== null) yield* wordsThrough(routes, field);
}

function* wordsThrough(routes: Routes, field: KnownField): Iterable<string> {
  const { states } = routes.automaton;
  const most = Math.min(Number(field.facets.maxLength ?? MOST_LENGTH), Math.max(MOST_LENGTH, routes.lengthFrom(0)));
  const least = Number(field.facets.minLength ?? 1);
  let left = MOST_VALUES;
  function* from(state: number, text: string, length: number): Iterable<string> {
    if (states[state]?.accepts === true && length >= least && left > 0) {
      left -= 1;
      yield text;
    }
    for (const { on, to } of states[state]?.moves ?? []) {
      if (left <= 0 || length + 1 + routes.lengthFrom(to) > most || !routes.leadsOn(to)) continue;
      for (const character of routes.charactersOf(on)) yield* from(to, text + character, length + 1);
    }
  }
  yield* from(0, '', 0);
}
