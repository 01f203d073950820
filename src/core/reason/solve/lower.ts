import { valueField, valuesOf } from '../../kinds/index.js';
import {
  exactOf,
  type Path,
  type PerOperator,
  type Predicate,
  perOperator,
  type Term,
  type Value,
} from '../../model/index.js';
import { isOrdered } from '../order/units.js';
import type { Languages } from '../text/languages.js';
import { contains, endsWith, startsWith, word } from '../text/sets.js';
import { all, any, type Formula, type Key, negated, present } from './formula.js';
import { compared, countKey, multipleOf, sumOf } from './linear.js';
import { canonical, inTree, lengthCompared, matching } from './lower-text.js';
import { yearCompared } from './lower-year.js';
import type { Space } from './space.js';
import { namedTerm } from './terms.js';

/**
 * Kleene's three values said with two: when a predicate is true, and when it is false. It is unknown where it is
 * neither. `notFalse` and `notTrue` are larger where something is not known exactly, never smaller; so are the others.
 */
export interface Truths {
  readonly isTrue: Formula;
  readonly isFalse: Formula;
  readonly notFalse: Formula;
  readonly notTrue: Formula;
}

/** What lowering needs, and the side conditions that it finds on the way. */
export interface Lowering {
  readonly space: Space;
  readonly languages: Languages;
  /**
   * Only plain records are looked for: items of a list that are all alike, texts that are their own slug. What is found
   * is a record like any other; that there is none proves nothing where a shortcut was taken.
   */
  readonly plain: boolean;
  /** The shortcuts that were taken, in words. */
  readonly shortcuts: Set<string>;
  /** What holds of each variable that was made for a term. */
  readonly asides: Map<Key, readonly Formula[]>;
}

const certain = (truth: Formula): Truths => ({
  isTrue: truth,
  isFalse: negated(truth),
  notFalse: truth,
  notTrue: negated(truth),
});

/** What is true or false as far as all of some needs are met, and unknown otherwise. */
export function known(needs: Formula, truth: Formula): Truths {
  const isTrue = all(needs, truth);
  const isFalse = all(needs, negated(truth));
  return { isTrue, isFalse, notFalse: negated(isFalse), notTrue: negated(isTrue) };
}

/** Nothing is known of its truth; it may be unknown even where all that it mentions is there. */
function opaque(id: string, needs: Formula): Truths {
  const said = (what: string): Formula => ({ is: 'opaque', id: `${id} is ${what}`, yes: true });
  const isTrue = all(needs, said('true'));
  const isFalse = all(needs, said('false'));
  return {
    isTrue,
    isFalse,
    notFalse: any(negated(needs), negated(said('false'))),
    notTrue: any(negated(needs), negated(said('true'))),
  };
}

const lowered = {
  closed: () => certain(true),
  bounded: () => certain(true),
  typed: () => certain(true),
  canonical: ({ of }, lowering) => canonical(of, lowering),
  given: ({ of }, lowering) => certain(givenOf(of, lowering)),
  givenCount: ({ of, from, to }, lowering) => {
    const given = of.map((path) => givenOf(path, lowering));
    return certain(all(atLeast(from, given), negated(atLeast(to + 1, given))));
  },
  compare(predicate, lowering) {
    const { left, by, right, domain } = predicate;
    if (isOrdered(domain)) {
      const apart =
        ranked(left, right, by, lowering) ??
        lengthCompared(left, by, right, lowering) ??
        yearCompared(left, by, right, lowering);
      if (apart !== null) return apart;
      const [a, b] = [sumOf(left, domain, lowering), sumOf(right, domain, lowering)];
      return known(all(a.needs, b.needs), compared(a, by, b));
    }
    return equal(left, right, lowering);
  },
  member({ of, among }, lowering) {
    const key = keyOf(of, lowering);
    const variable = lowering.space.variable(key);
    if (variable.sort === 'finite') return known(present(key), { is: 'among', of: key, values: among, yes: true });
    const domain = variable.sort === 'text' ? 'text' : variable.domain;
    const equals = among.map((value): Predicate => {
      return { op: 'compare', left: of, by: '=', right: { term: 'literal', value, domain }, domain };
    });
    return truthsOf({ op: 'or', any: equals }, lowering);
  },
  multiple({ of, step }, lowering) {
    const sum = sumOf(of, 'number', lowering);
    const exact = exactOf(step);
    const formula = exact === null ? null : multipleOf(sum, exact);
    return formula === null ? opaque(JSON.stringify([of, step]), sum.needs) : known(sum.needs, formula);
  },
  matches({ of, pattern }, lowering) {
    const key = keyOf(of, lowering);
    const fits = matching(key, pattern, lowering);
    return fits === null ? opaque(JSON.stringify([key, pattern]), present(key)) : known(present(key), fits);
  },
  includes({ of, text, where }, lowering) {
    const make = { anywhere: contains, start: startsWith, end: endsWith }[where];
    const key = keyOf(of, lowering);
    if (text.term !== 'literal')
      return opaque(JSON.stringify([of, text, where]), all(present(key), needsOf(text, lowering)));
    return known(present(key), inTree(key, `${where} ${text.value}`, make(String(text.value)), lowering));
  },
  and(predicate, lowering) {
    const inner = predicate.all.map((one) => truthsOf(one, lowering));
    return {
      isTrue: all(...inner.map(({ isTrue }) => isTrue)),
      isFalse: any(...inner.map(({ isFalse }) => isFalse)),
      notFalse: all(...inner.map(({ notFalse }) => notFalse)),
      notTrue: any(...inner.map(({ notTrue }) => notTrue)),
    };
  },
  or(predicate, lowering) {
    const inner = predicate.any.map((one) => truthsOf(one, lowering));
    return {
      isTrue: any(...inner.map(({ isTrue }) => isTrue)),
      isFalse: all(...inner.map(({ isFalse }) => isFalse)),
      notFalse: any(...inner.map(({ notFalse }) => notFalse)),
      notTrue: all(...inner.map(({ notTrue }) => notTrue)),
    };
  },
  not({ holds }, lowering) {
    const { isTrue, isFalse, notTrue, notFalse } = truthsOf(holds, lowering);
    return { isTrue: isFalse, isFalse: isTrue, notFalse: notTrue, notTrue: notFalse };
  },
  each({ over, holds }, lowering) {
    const inner = truthsOf(holds, lowering);
    const none = isEmpty(over, lowering);
    const one = (what: string, truth: Formula) =>
      all(negated(none), ofSome(`${what} ${JSON.stringify(holds)}`, truth, lowering));
    return {
      isTrue: any(none, inner.isTrue),
      isFalse: one('false', inner.isFalse),
      notFalse: any(none, inner.notFalse),
      notTrue: one('not true', inner.notTrue),
    };
  },
  some({ over, holds }, lowering) {
    const inner = truthsOf(holds, lowering);
    const none = isEmpty(over, lowering);
    const one = (what: string, truth: Formula) =>
      all(negated(none), ofSome(`${what} ${JSON.stringify(holds)}`, truth, lowering));
    return {
      isTrue: one('true', inner.isTrue),
      isFalse: any(none, inner.isFalse),
      notFalse: one('not false', inner.notFalse),
      notTrue: any(none, inner.notTrue),
    };
  },
  distinct: ({ over, of }, lowering) => {
    const room = asManyValues(over, of, lowering);
    return { isTrue: room, isFalse: negated(atMostItems(over, 1, lowering)), notFalse: room, notTrue: true };
  },
  unique: () => certain(true),
  refersTo: () => certain(true),
  custom: ({ of, name }, lowering) => opaque(`custom ${name}`, all(...of.map((path) => givenOf(path, lowering)))),
  asks: () => certain(true),
} satisfies PerOperator<Lowering, Truths>;

/** When a predicate is true and when it is false. */
export function truthsOf(predicate: Predicate, lowering: Lowering): Truths {
  return perOperator(lowered, predicate, lowering);
}

/** That a field has a value; what is worked out has one where all is there that it is worked out from. */
export function givenOf(path: Path, lowering: Lowering): Formula {
  const field = lowering.space.field(path);
  if (field.derivation === null) return present(path);
  return needsOf(field.derivation, lowering);
}

/** What must be there for a term to be worth something. */
export function needsOf(term: Term, lowering: Lowering): Formula {
  if (term.term === 'literal' || term.term === 'clock' || term.term === 'count') return true;
  if (term.term === 'field') return givenOf(term.path, lowering);
  if (term.term === 'year') return needsOf(term.of, lowering);
  if (term.term === 'slug' || term.term === 'months' || term.term === 'total' || term.term === 'rank')
    return present(keyOf(term, lowering));
  return sumOf(term, term.term === 'days' ? 'date' : 'number', lowering).needs;
}

/** True of a list without items. */
export function isEmpty(list: Path, lowering: Lowering): Formula {
  return atMostItems(list, 0, lowering);
}

function atMostItems(list: Path, count: number, { space }: Lowering): Formula {
  return { is: 'linear', sum: [[countKey(space, list), 1n]], most: BigInt(count) * 10n ** BigInt(space.scale) };
}

/** What is said of some item: exact where all are alike, otherwise not known. */
function ofSome(id: string, truth: Formula, { plain, shortcuts }: Lowering): Formula {
  if (!plain) return { is: 'opaque', id: `some item is ${id}`, yes: true };
  shortcuts.add(itemsAlike);
  return truth;
}

/** The shortcut that all items of a list are alike, in words that say what was not looked at. */
export const itemsAlike = 'the items of a list may have to differ';

/** At least so many of several are true. */
function atLeast(count: number, of: readonly Formula[]): Formula {
  if (count <= 0) return true;
  if (count > of.length) return false;
  if (count === of.length) return all(...of);
  if (count === 1) return any(...of);
  const [first, ...rest] = of as [Formula, ...Formula[]];
  return any(all(first, atLeast(count - 1, rest)), atLeast(count, rest));
}

/** The key of a term that is no sum: a field, or a name for what the term is worth. */
export function keyOf(term: Term, lowering: Lowering): Key {
  if (term.term !== 'field') return namedTerm(term, term.term === 'slug' ? 'text' : 'number', lowering);
  const { derivation } = lowering.space.field(term.path);
  return derivation === null ? term.path : keyOf(derivation, lowering);
}

/** Equality of values that have no order. */
function equal(left: Term, right: Term, lowering: Lowering): Truths {
  const [a, b] = left.term === 'literal' ? [right, left] : [left, right];
  const key = keyOf(a, lowering);
  const needs = all(present(key), needsOf(b, lowering));
  const { sort } = lowering.space.variable(key);
  if (b.term !== 'literal') return known(needs, { is: 'same', of: [key, keyOf(b, lowering)], yes: true });
  if (sort === 'finite') return known(needs, { is: 'among', of: key, values: [b.value], yes: true });
  return known(needs, inTree(key, `word ${b.value}`, word(String(b.value)), lowering));
}

/** A comparison of the places of codes in their order, which is one of codes. */
function ranked(left: Term, right: Term, by: string, lowering: Lowering): Truths | null {
  if (left.term !== 'rank' || right.term !== 'rank') return null;
  const { among } = left;
  const holds = (a: number, b: number) =>
    ({ '<': a < b, '<=': a <= b, '>': a > b, '>=': a >= b, '=': a === b })[by] === true;
  const codes = (of: Key, values: readonly Value[]): Formula => ({ is: 'among', of, values, yes: true });
  const key = keyOf(left.of, lowering);
  const pairs = (wanted: boolean): Formula => {
    const partners = (rank: number) => among.filter((_, other) => holds(rank, other) === wanted);
    if (right.of.term === 'literal') {
      const other = among.indexOf(right.of.value);
      return all(
        present(key),
        codes(
          key,
          among.filter((_, rank) => holds(rank, other) === wanted),
        ),
      );
    }
    const second = keyOf(right.of, lowering);
    const either = among.map((code, rank) => all(codes(key, [code]), codes(second, partners(rank))));
    return all(present(key), present(second), any(...either));
  };
  return { isTrue: pairs(true), isFalse: pairs(false), notFalse: negated(pairs(false)), notTrue: negated(pairs(true)) };
}

/** No two items alike: no more of them than there are values, where those are few and nothing else may stand there. */
function asManyValues(over: Path, of: Path, lowering: Lowering): Formula {
  const variable = lowering.space.variable(of);
  if (variable.sort !== 'finite') return true;
  const declared = valuesOf(valueField(lowering.space.field(of))) ?? [];
  const others = variable.values.filter((value) => !declared.includes(value as never));
  return any(atMostItems(over, declared.length, lowering), { is: 'among', of, values: others, yes: true });
}
