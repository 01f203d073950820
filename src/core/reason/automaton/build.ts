import {
  CharSet,
  type Concatenation,
  DFA,
  type Element,
  type Expression,
  NFA,
  type NoParent,
  TooManyNodesError,
  type TransitionIterable,
} from 'refa';
import { NO_BOUNDARY } from '../pattern/boundary.js';
import { LAST, type Ranges } from '../pattern/ranges.js';
import { mostStates, type PatternTree, TooLarge } from '../pattern/tree.js';
import { isWithin } from './within.js';

/** A deterministic automaton as data. State 0 is the first; a character that no move names leads nowhere. */
export interface Automaton {
  readonly states: readonly State[];
}
export interface State {
  readonly accepts: boolean;
  readonly moves: readonly Move[];
}
export interface Move {
  readonly on: Ranges;
  readonly to: number;
}

/**
 * The smallest automaton of a pattern.
 *
 * @throws TooLarge where it, or one on the way to it, has more states than the budget
 */
export function automatonOf(tree: PatternTree): Automaton {
  return automatonUpTo(LAST, tree);
}

/** The same of a tree in which word boundaries are marked: the marks are characters of it. */
export function markedAutomatonOf(tree: PatternTree): Automaton {
  return automatonUpTo(NO_BOUNDARY, tree);
}

function automatonUpTo(maxCharacter: number, tree: PatternTree): Automaton {
  const expression: NoParent<Expression> = { type: 'Expression', alternatives: [concatenation([tree], maxCharacter)] };
  return withinBudget((states) => {
    const nfa = NFA.fromRegex(expression, { maxCharacter }, {}, new NFA.LimitedNodeFactory(4 * mostStates));
    return DFA.fromFA(nfa, states);
  });
}

/** The automaton of the texts that both accept: one of the two, where that is seen at once. */
export function intersection(a: Automaton, b: Automaton): Automaton {
  if (isWithin(b, a)) return b;
  if (isWithin(a, b)) return a;
  return withinBudget((states) => DFA.fromIntersection(iterable(a), iterable(b), states));
}

/** The automaton of the texts that this one does not accept. */
export function complementOf(automaton: Automaton): Automaton {
  return withinBudget((states) => {
    const dfa = DFA.fromFA(iterable(automaton), states);
    dfa.complement();
    return dfa;
  });
}

/** @throws TooLarge where what is made has more states than the budget */
export function withinBudget(make: (states: DFA.LimitedNodeFactory) => DFA): Automaton {
  try {
    const dfa = make(new DFA.LimitedNodeFactory(mostStates));
    dfa.minimize();
    return dataOf(dfa);
  } catch (error) {
    if (error instanceof TooManyNodesError) throw new TooLarge();
    throw error;
  }
}

function dataOf(dfa: DFA): Automaton {
  const nodes = [...dfa.nodes()];
  const numbers = new Map([dfa.initial, ...nodes.filter((node) => node !== dfa.initial)].map((node, at) => [node, at]));
  // The same characters are the same object: what is worked out for them is then found again.
  const sets = new Map<string, Ranges>();
  const shared = (on: Ranges) => {
    let key = '';
    for (const [from, to] of on) key += `${from} ${to} `;
    const known = sets.get(key) ?? on;
    sets.set(key, known);
    return known;
  };
  const states = [...numbers.keys()].map((node) => {
    const byTarget = new Map<number, [number, number][]>();
    for (const [{ min, max }, to] of node.out.entries()) {
      const target = numbers.get(to) ?? 0;
      const known = byTarget.get(target);
      if (known === undefined) byTarget.set(target, [[min, max]]);
      else known.push([min, max]);
    }
    return { accepts: dfa.finals.has(node), moves: [...byTarget].map(([to, on]) => ({ on: shared(on), to })) };
  });
  return { states };
}

/** Our data as the automata package walks it. */
export function iterable({ states }: Automaton): TransitionIterable<number> {
  const sets = new Map<Ranges, CharSet>();
  const charactersOf = (on: Ranges) => {
    const known = sets.get(on) ?? CharSet.empty(LAST).union(on.map(([min, max]) => ({ min, max })));
    sets.set(on, known);
    return known;
  };
  const out = (state: number) => new Map((states[state]?.moves ?? []).map(({ on, to }) => [to, charactersOf(on)]));
  const iterator = {
    initial: 0,
    getOut: out,
    isFinal: (state: number) => states[state]?.accepts ?? false,
    maxCharacter: LAST,
  };
  return { maxCharacter: LAST, transitionIterator: () => iterator };
}

function concatenation(trees: readonly PatternTree[], last: number): NoParent<Concatenation> {
  return { type: 'Concatenation', elements: trees.flatMap((tree) => elements(tree, last)) };
}

function elements(tree: PatternTree, last: number): readonly NoParent<Element>[] {
  if ('one' in tree) {
    const characters = CharSet.empty(last).union(tree.one.map(([min, max]) => ({ min, max })));
    return [{ type: 'CharacterClass', characters }];
  }
  if ('sequence' in tree) return tree.sequence.flatMap((one) => elements(one, last));
  if ('either' in tree)
    return [{ type: 'Alternation', alternatives: tree.either.map((one) => concatenation([one], last)) }];
  const alternatives = [concatenation([tree.repeat], last)];
  return [{ type: 'Quantifier', min: tree.from, max: tree.to, lazy: false, alternatives }];
}
