import { type Concatenation, DFA, type Element, type Expression, type NoParent, TooManyNodesError } from 'refa';
import type { PatternTree } from '../pattern/tree.js';
import { type Automaton, iterable } from './build.js';

/** A tree of more nodes than this is of no use in a constraint that people read. */
const MOST_NODES = 3_000;

/**
 * A regular expression of the texts that an automaton accepts, by taking out one state after the other; null where it
 * would be too large. An automaton is deterministic, so that the expression reads every text in one way.
 */
export function expressionOf(automaton: Automaton): PatternTree | null {
  try {
    return inEither(DFA.fromFA(iterable(automaton)).toRegex({ maxNodes: MOST_NODES, maxOptimizationPasses: 0 }));
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
