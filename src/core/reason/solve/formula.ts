import type { Value } from '../../model/index.js';
import { type Lengths, otherLengths } from '../automaton/index.js';
import type { TextId } from '../text/languages.js';

/** Something that has a value or none: a field by its path, or what a term is worth, by a name of ours. */
export type Key = string;

/** What can be asked of values, each true or false. Numbers and moments are whole numbers of their smallest unit. */
export type Literal =
  | { readonly is: 'present'; readonly of: Key; readonly yes: boolean }
  /** The sum of the values, each times its factor, is at most so much. */
  | { readonly is: 'linear'; readonly sum: readonly (readonly [of: Key, factor: bigint])[]; readonly most: bigint }
  | { readonly is: 'multiple'; readonly of: Key; readonly step: bigint; readonly yes: boolean }
  /** One of a closed list of values. */
  | { readonly is: 'among'; readonly of: Key; readonly values: readonly Value[]; readonly yes: boolean }
  /** A text of a set. */
  | { readonly is: 'within'; readonly of: Key; readonly set: TextId; readonly yes: boolean }
  | { readonly is: 'length'; readonly of: Key; readonly lengths: Lengths }
  /** Two values without an order are equal. */
  | { readonly is: 'same'; readonly of: readonly [Key, Key]; readonly yes: boolean }
  /** What nothing is known of but that it is true or false. */
  | { readonly is: 'opaque'; readonly id: string; readonly yes: boolean };

/** What is asked of values, put together: two-valued, with negation at the literals only. */
export type Formula =
  | Literal
  | boolean
  | { readonly is: 'and'; readonly all: readonly Formula[] }
  | { readonly is: 'or'; readonly any: readonly Formula[] };

/** All of them; what is certain is left out. */
export function all(...parts: readonly Formula[]): Formula {
  const flat = parts.flatMap((part) =>
    typeof part === 'object' && part.is === 'and' ? part.all : part === true ? [] : [part],
  );
  if (flat.includes(false)) return false;
  if (flat.length === 0) return true;
  return flat.length === 1 ? (flat[0] as Formula) : { is: 'and', all: flat };
}

/** Any of them; what can't be is left out. */
export function any(...parts: readonly Formula[]): Formula {
  const flat = parts.flatMap((part) =>
    typeof part === 'object' && part.is === 'or' ? part.any : part === false ? [] : [part],
  );
  if (flat.includes(true)) return true;
  if (flat.length === 0) return false;
  return flat.length === 1 ? (flat[0] as Formula) : { is: 'or', any: flat };
}

/** Two-valued negation, driven down to the literals. */
export function negated(formula: Formula): Formula {
  if (typeof formula === 'boolean') return !formula;
  if (formula.is === 'and') return any(...formula.all.map(negated));
  if (formula.is === 'or') return all(...formula.any.map(negated));
  if (formula.is === 'linear') {
    // Over whole numbers, more than m is at least m + 1.
    return { is: 'linear', sum: formula.sum.map(([of, factor]) => [of, -factor]), most: -formula.most - 1n };
  }
  if (formula.is === 'length') return { ...formula, lengths: otherLengths(formula.lengths) };
  return { ...formula, yes: !formula.yes };
}

/** That something has a value. */
export function present(of: Key): Formula {
  return { is: 'present', of, yes: true };
}

/** The keys that a literal is about. */
export function keysOfLiteral(literal: Literal): readonly Key[] {
  if (literal.is === 'linear') return literal.sum.map(([of]) => of);
  if (literal.is === 'same') return literal.of;
  return literal.is === 'opaque' ? [`opaque ${literal.id}`] : [literal.of];
}

/** The keys that a formula is about, as often as it mentions them. */
export function keysOf(formula: Formula): readonly Key[] {
  if (typeof formula === 'boolean') return [];
  if (formula.is === 'and') return formula.all.flatMap(keysOf);
  if (formula.is === 'or') return formula.any.flatMap(keysOf);
  return keysOfLiteral(formula);
}
