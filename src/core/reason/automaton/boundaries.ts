import { CharSet, DFA, type TransitionIterable } from 'refa';
import { BOUNDARY, NO_BOUNDARY } from '../pattern/boundary.js';
import { anyCharacter, complement, intersect, type Ranges } from '../pattern/ranges.js';
import type { PatternTree } from '../pattern/tree.js';
import { type Automaton, markedAutomatonOf, withinBudget } from './build.js';

/** Where the reading of a text is: the state; whether the last character is one of a word; and whether the next must be. */
interface Place {
  readonly state: number;
  readonly afterWord: boolean;
  readonly beforeWord: boolean | null;
}

/**
 * The automaton of a tree in which word boundaries are marked (ECMA-262, 22.2.2.6): a mark is passed where one side of it is
 * a character of a word and the other is not, the ends of the text being of none.
 *
 * @param word the characters of words
 * @throws TooLarge where it, or one on the way to it, has more states than the budget
 */
export function atBoundaries(tree: PatternTree, word: Ranges): Automaton {
  const { states } = markedAutomatonOf(tree);
  const others = intersect(complement(word), anyCharacter);
  const movesOf = (state: number) => states[state]?.moves ?? [];
  const has = (on: Ranges, mark: number) => on.some(([from, to]) => from <= mark && mark <= to);

  /** The place, and all that marks lead to from it. */
  const reached = (first: Place): readonly Place[] => {
    const found = new Map([[keyOf(first), first]]);
    for (const place of found.values())
      for (const { on, to } of movesOf(place.state)) {
        for (const [mark, next] of [
          [BOUNDARY, !place.afterWord],
          [NO_BOUNDARY, place.afterWord],
        ] as const) {
          if (!has(on, mark) || (place.beforeWord !== null && place.beforeWord !== next)) continue;
          const beyond = { ...place, state: to, beforeWord: next };
          found.set(keyOf(beyond), beyond);
        }
      }
    return [...found.values()];
  };

  const places = new Map<string, Place>();
  const getOut = (key: string) => {
    const out = new Map<string, CharSet>();
    for (const { state, beforeWord } of reached(places.get(key) as Place))
      for (const { on, to } of movesOf(state))
        for (const [afterWord, characters] of [
          [true, word],
          [false, others],
        ] as const) {
          const read = intersect(on, characters);
          if (read.length === 0 || (beforeWord !== null && beforeWord !== afterWord)) continue;
          const place = { state: to, afterWord, beforeWord: null };
          const target = keyOf(place);
          places.set(target, place);
          const set = out.get(target) ?? CharSet.empty(MAX);
          out.set(target, set.union(read.map(([min, max]) => ({ min, max }))));
        }
    return out;
  };
  const start: Place = { state: 0, afterWord: false, beforeWord: null };
  places.set(keyOf(start), start);
  const iterator = {
    initial: keyOf(start),
    getOut,
    isFinal: (key: string) =>
      reached(places.get(key) as Place).some(
        ({ state, beforeWord }) => beforeWord !== true && states[state]?.accepts === true,
      ),
    maxCharacter: MAX,
  };
  const texts: TransitionIterable<string> = { maxCharacter: MAX, transitionIterator: () => iterator };
  return withinBudget((nodes) => DFA.fromFA(texts, nodes));
}

const MAX = 0x10ffff;

function keyOf({ state, afterWord, beforeWord }: Place): string {
  return `${state} ${afterWord} ${beforeWord}`;
}
