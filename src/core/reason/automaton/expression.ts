import { type Concatenation, DFA, type Element, type Expression, type NoParent, TooManyNodesError } from 'refa';
import type { PatternTree } from '../pattern/tree.js';
import { type Automaton, iterable } from './build.js';

/**
 * A regular expression of the texts that an automaton accepts, by taking out one state after the other; null where it
 * would be too large. An automaton is deterministic, so that the expression reads every text in one way.
 *
 * @param maxNodes the characters, sequences, repeats and choices of the largest expression that is of use
 */
export function expressionOf(automaton: Automaton, maxNodes: number): PatternTree | null {
  try {
    return inEither(DFA.fromFA(iterable(automaton)).toRegex({ maxNodes, maxOptimizationPasses: 0 }));
  } catch (error) {
    if (error instanceof TooManyNodesError) return null;
    throw error;
  }
}

function inEither({ alternatives }: NoParent<Expression>): PatternTree {
  // Of no text at all: a set of no characters.
  if (alternatives.length === 0) return { one: [] };
  const either = alternatives.map(inSequence);
  return either.length === 1 && either[0] !== undefined ? either[0] : { either };
}

function inSequence({ elements }: NoParent<Concatenation>): PatternTree {
  return { sequence: elements.map(single) };
}

function single(element: NoParent<Element>): PatternTree {
  switch (element.type) {
    case 'CharacterClass':
      return { one: element.characters.ranges.map(({ min, max }) => [min, max] as const) };
    case 'Alternation':
      return inEither({ type: 'Expression', alternatives: element.alternatives });
    case 'Quantifier':
      return {
        repeat: inEither({ type: 'Expression', alternatives: element.alternatives }),
        from: element.min,
        to: element.max,
      };
    default:
      throw new Error(`an automaton has no ${element.type}`);
  }
}
