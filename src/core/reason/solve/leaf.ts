import type { Value } from '../../model/index.js';
import { anyLength, bothLengths } from '../automaton/index.js';
import { canHold, type Difference } from '../order/differences.js';
import { anyIn, floorDivide, holds } from '../order/range.js';
import type { Key } from './formula.js';
import type { Store, TextState } from './store.js';

/** A value for each key that one was found for, or why none was. */
export type Values =
  /** `doubt`: why a text of them may not do after all. */
  | { readonly values: ReadonlyMap<Key, Value>; readonly doubt: string | null }
  | { readonly impossible: true }
  | { readonly undecided: string };

/** False where it is certain that there are no values for what was asserted; a quicker question than which there are. */
export function mayHaveValues(store: Store, keys: readonly Key[]): boolean {
  const sorts = (sort: string) => keys.filter((key) => store.space.variable(key).sort === sort);
  const ranges = new Map(sorts('ordered').map((key) => [key, store.rangeOf(key)]));
  if (!canHold(differencesOf(store), ranges)) return false;
  if (finiteValues(store, sorts('finite')) === null) return false;
  const texts = sorts('text');
  // Each text by itself was looked at as it was narrowed; together they are only where some are equal, or must not be.
  const arePaired = store.pairs.some(({ of }) => of.some((key) => texts.includes(key)));
  return !arePaired || !('impossible' in textValues(store, texts));
}

/** So many values are tried for sums over more than two before they are left undecided. */
const MOST_TRIES = 400;

/** Looks at everything that was asserted together, and finds values for it. */
export function valuesFor(store: Store, keys: readonly Key[]): Values {
  const sorts = (sort: string) => keys.filter((key) => store.space.variable(key).sort === sort);
  const ordered = orderedValues(store, sorts('ordered'));
  if (!('values' in ordered)) return ordered;
  const finite = finiteValues(store, sorts('finite'));
  if (finite === null) return { impossible: true };
  const texts = textValues(store, sorts('text'));
  if (!('values' in texts)) return texts;
  return { values: new Map([...ordered.values, ...finite, ...texts.values]), doubt: texts.doubt };
}

function differencesOf(store: Store): readonly Difference[] {
  return store.sums.flatMap(({ sum, most }) => {
    const [first, second, ...more] = sum;
    if (first === undefined || second === undefined || more.length > 0 || first[1] !== -second[1]) return [];
    const [from, to] = first[1] > 0n ? [first, second] : [second, first];
    return [{ from: from[0], to: to[0], most: floorDivide(most, from[1]) }];
  });
}

function orderedValues(store: Store, keys: readonly Key[]): Values {
  const ranges = new Map(keys.map((key) => [key, store.rangeOf(key)]));
  if (!canHold(differencesOf(store), ranges)) return { impossible: true };
  let tries = 0;
  const assigned = (from: Store, left: readonly Key[]): ReadonlyMap<Key, Value> | null => {
    const [key, ...rest] = left;
    if (key === undefined) return new Map();
    const variable = store.space.variable(key);
    if (variable.sort !== 'ordered') throw new Error(`${key} has no order`);
    const range = from.rangeOf(key);
    const liked = variable.likely.filter((count) => holds(range, count)).slice(0, 2);
    const ends = [range.low, range.high].flatMap((end) => (end === null ? [] : (anyIn(range, end) ?? [])));
    for (const count of new Set([...liked, anyIn(range), ...ends].filter((one) => one !== null))) {
      if (tries++ > MOST_TRIES) return null;
      const next = from.branch();
      if (!next.fix(key, count)) continue;
      const others = assigned(next, rest);
      if (others !== null) return new Map([[key, variable.write(count)], ...others]);
    }
    return null;
  };
  const values = assigned(store, keys);
  return values === null ? { undecided: 'a sum of several numbers was not solved' } : { values, doubt: null };
}

function finiteValues(store: Store, keys: readonly Key[]): ReadonlyMap<Key, Value> | null {
  const pairs = store.pairs.filter(({ of }) => of.every((key) => keys.includes(key)));
  const assigned = (left: readonly Key[], known: ReadonlyMap<Key, Value>): ReadonlyMap<Key, Value> | null => {
    const [key, ...rest] = left;
    if (key === undefined) return known;
    for (const value of store.valuesOf(key)) {
      const next = new Map([...known, [key, value]]);
      const fits = pairs.every(
        ({ of: [a, b], yes }) => !next.has(a) || !next.has(b) || (next.get(a) === next.get(b)) === yes,
      );
      const found = fits ? assigned(rest, next) : null;
      if (found !== null) return found;
    }
    return null;
  };
  return assigned(keys, new Map());
}

function textValues(store: Store, keys: readonly Key[]): Values {
  const pairs = store.pairs.filter(({ of }) => of.every((key) => keys.includes(key)));
  const leaders = new Map(keys.map((key) => [key, key]));
  const leaderOf = (key: Key): Key => {
    const above = leaders.get(key) ?? key;
    return above === key ? key : leaderOf(above);
  };
  for (const { of, yes } of pairs) if (yes) leaders.set(leaderOf(of[0]), leaderOf(of[1]));
  const apart = pairs.filter(({ yes }) => !yes).map(({ of }) => of.map(leaderOf) as [Key, Key]);
  if (apart.some(([a, b]) => a === b)) return { impossible: true };
  const groups = new Map<Key, Key[]>();
  for (const key of keys) groups.set(leaderOf(key), [...(groups.get(leaderOf(key)) ?? []), key]);
  const values = new Map<Key, Value>();
  let doubt: string | null = null;
  for (const [leader, members] of groups) {
    const wanted = together(members.map((key) => store.textOf(key)));
    const others = apart.flatMap(([a, b]) => (a === leader ? [b] : b === leader ? [a] : []));
    const taken = others.flatMap((other) => values.get(other) ?? []).map(String);
    const found = wordBeside(store, members, wanted, taken);
    if (found === null) return taken.length === 0 ? { impossible: true } : few(store, groups, apart);
    if ('undecided' in found) return found;
    for (const key of members) values.set(key, found.word);
    doubt ??= found.doubt;
  }
  return { values, doubt };
}

function together(states: readonly TextState[]): TextState {
  return {
    in: states.flatMap((state) => state.in),
    notIn: states.flatMap((state) => state.notIn),
    lengths: states.reduce((lengths, state) => bothLengths(lengths, state.lengths), anyLength),
  };
}

/** A word of the group that is none of those taken; null where there is none at all. */
function wordBeside(store: Store, members: readonly Key[], wanted: TextState, taken: readonly string[]) {
  const { languages, space } = store;
  const likely = members.flatMap((key) => {
    const variable = space.variable(key);
    return variable.sort === 'text' ? variable.likely : [];
  });
  const without = taken.map((word) => languages.ofWord(word));
  const beside = { ...wanted, notIn: [...wanted.notIn, ...without] };
  const found = languages.find(
    beside,
    likely.filter((word) => !taken.includes(word)),
  );
  if ('none' in found) return null;
  return found;
}

/**
 * Groups that must differ and have too few words to go round, as far as it looks: certain where two groups are left with
 * one and the same word; otherwise another choice of words might do, which is not tried.
 */
function few(store: Store, groups: ReadonlyMap<Key, readonly Key[]>, apart: readonly (readonly [Key, Key])[]): Values {
  const only = (leader: Key): string | null => {
    const wanted = together((groups.get(leader) ?? []).map((key) => store.textOf(key)));
    const found = store.languages.count(wanted, 2) === 1 ? store.languages.find(wanted) : null;
    return found !== null && 'word' in found ? found.word : null;
  };
  const clash = apart.some(([a, b]) => only(a) !== null && only(a) === only(b));
  return clash ? { impossible: true } : { undecided: 'several texts must differ and have few values' };
}
