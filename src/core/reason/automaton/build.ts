import { CharSet, type Concatenation, DFA, type Element, type Expression, NFA, type NoParent } from 'refa';
import { LAST, type Ranges } from '../pattern/ranges.js';
import type { PatternTree } from '../pattern/tree.js';

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

/** The smallest automaton of a pattern. */
export function automatonOf(tree: PatternTree): Automaton {
  const expression: NoParent<Expression> = { type: 'Expression', alternatives: [concatenation([tree])] };
  const dfa = DFA.fromFA(NFA.fromRegex(expression, { maxCharacter: LAST }));
  dfa.minimize();
  const nodes = [...dfa.nodes()];
  const numbers = new Map([dfa.initial, ...nodes.filter((node) => node !== dfa.initial)].map((node, at) => [node, at]));
  const states = [...numbers.keys()].map((node) => {
    const byTarget = new Map<number, [number, number][]>();
    for (const [{ min, max }, to] of node.out.entries()) {
      const target = numbers.get(to) ?? 0;
      byTarget.set(target, [...(byTarget.get(target) ?? []), [min, max]]);
    }
    return { accepts: dfa.finals.has(node), moves: [...byTarget].map(([to, on]) => ({ on, to })) };
  });
  return { states };
}

function concatenation(trees: readonly PatternTree[]): NoParent<Concatenation> {
  return { type: 'Concatenation', elements: trees.flatMap(elements) };
}

function elements(tree: PatternTree): readonly NoParent<Element>[] {
  if ('one' in tree) {
    const characters = CharSet.empty(LAST).union(tree.one.map(([min, max]) => ({ min, max })));
    return [{ type: 'CharacterClass', characters }];
  }
  if ('sequence' in tree) return tree.sequence.flatMap(elements);
  if ('either' in tree) return [{ type: 'Alternation', alternatives: tree.either.map((one) => concatenation([one])) }];
  const alternatives = [concatenation([tree.repeat])];
  return [{ type: 'Quantifier', min: tree.from, max: tree.to, lazy: false, alternatives }];
}
