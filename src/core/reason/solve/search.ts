import type { Value } from '../../model/index.js';
import type { Languages } from '../text/languages.js';
import { type Formula, type Key, type Literal, negated } from './formula.js';
import { mayHaveValues, valuesFor } from './leaf.js';
import type { Space } from './space.js';
import { Store } from './store.js';

/** Values that satisfy formulas; a key without one is absent. */
export type Solution =
  | { readonly is: 'found'; readonly values: ReadonlyMap<Key, Value>; readonly doubt: string | null }
  | { readonly is: 'impossible' }
  | { readonly is: 'undecided'; readonly why: string };

/** A formula with the keys that it is about. */
export interface Keyed {
  readonly formula: Formula;
  readonly keys: readonly Key[];
}

/** So many cases are split before a question is left undecided. */
const MOST_CASES = 2_000;

interface Search {
  cases: number;
  undecided: string | null;
  doubt: string | null;
  /** Only whether it is impossible is asked. */
  readonly proving: boolean;
}

/**
 * Finds values that satisfy all formulas, or shows that there are none: by case split over what may be one thing or
 * another, with everything that follows carried along. Formulas that share no value are solved apart.
 *
 * @param proving only whether it is impossible is asked: what is found then has no values
 */
export function solve(formulas: readonly Keyed[], space: Space, languages: Languages, proving = false): Solution {
  const values = new Map<Key, Value>();
  let undecided: string | null = null;
  let doubt: string | null = null;
  for (const group of apart(formulas)) {
    const search: Search = { cases: 0, undecided: null, doubt: null, proving };
    const found = branch(new Store({ space, languages }), group.formulas, search, group.keys);
    if (found === null && search.undecided === null) return { is: 'impossible' };
    if (found === null) undecided = search.undecided;
    else for (const [key, value] of found) values.set(key, value);
    doubt ??= search.doubt;
  }
  return undecided === null ? { is: 'found', values, doubt } : { is: 'undecided', why: undecided };
}

/** Formulas in groups that have no key in common. */
function apart(formulas: readonly Keyed[]): readonly { readonly formulas: Formula[]; readonly keys: readonly Key[] }[] {
  const leaders = new Map<Key, Key>();
  const leaderOf = (key: Key): Key => {
    const above = leaders.get(key) ?? key;
    return above === key ? key : leaderOf(above);
  };
  for (const { keys } of formulas) for (const key of keys) leaders.set(leaderOf(key), leaderOf(keys[0] ?? key));
  const groups = new Map<Key, { readonly formulas: Formula[]; readonly keys: Set<Key> }>();
  for (const { formula, keys } of formulas) {
    const leader = keys[0] === undefined ? ' none' : leaderOf(keys[0]);
    const group = groups.get(leader) ?? { formulas: [], keys: new Set() };
    groups.set(leader, group);
    group.formulas.push(formula);
    for (const key of keys) if (!key.startsWith('opaque ')) group.keys.add(key);
  }
  return [...groups.values()].map((group) => ({ formulas: group.formulas, keys: [...group.keys] }));
}

type Alternatives = Extract<Formula, { is: 'or' }>;

/** Values for the formulas on top of what is asserted already; null where none were found. */
function branch(
  store: Store,
  formulas: readonly Formula[],
  search: Search,
  keys: readonly Key[],
): ReadonlyMap<Key, Value> | null {
  const open = propagated(store, formulas);
  if (open === null) return null;
  const [first] = [...open].sort((a, b) => a.any.length - b.any.length);
  if (first === undefined) return atLeaf(store, search, keys);
  const rest = open.filter((one) => one !== first);
  const absences = first.any.filter(isAbsence);
  const others = first.any.filter((one) => !isAbsence(one));
  // Absence is tried last, and taken out of the other cases, so that no case is looked at twice.
  const cases = [
    ...others.map((one) => [one, ...absences.map(negated)]),
    ...absences.map((one, at) => [one, ...absences.slice(0, at).map(negated)]),
  ];
  for (const chosen of cases) {
    if (++search.cases > MOST_CASES) {
      search.undecided = 'there are too many cases to look at';
      return null;
    }
    const found = branch(store.branch(), [...chosen, ...rest], search, keys);
    if (found !== null) return found;
  }
  return null;
}

function isAbsence(formula: Formula): boolean {
  return typeof formula === 'object' && formula.is === 'present' && !formula.yes;
}

function atLeaf(store: Store, search: Search, keys: readonly Key[]): ReadonlyMap<Key, Value> | null {
  const { space, presence } = store;
  const valued = keys.filter((key) => (space.isExtra(key) ? presence.get(key) !== false : presence.get(key) === true));
  const asked = valued.filter((key) => space.hasValue(key));
  if (search.proving) return mayHaveValues(store, asked) ? new Map() : null;
  const found = valuesFor(store, asked);
  if ('values' in found) {
    search.doubt ??= found.doubt;
    return found.values;
  }
  if ('undecided' in found) search.undecided = found.undecided;
  return null;
}

/** Asserts what is certain and returns what is still open; null where something is impossible. */
export function propagated(store: Store, formulas: readonly Formula[]): readonly Alternatives[] | null {
  let open: readonly Formula[] = formulas;
  for (;;) {
    const round = propagatedOnce(store, open);
    if (round === null || !round.isNarrower) return round === null ? null : round.open;
    open = round.open;
  }
}

/** One round of that. */
function propagatedOnce(
  store: Store,
  formulas: readonly Formula[],
): { readonly open: readonly Alternatives[]; readonly isNarrower: boolean } | null {
  const open: Alternatives[] = [];
  let isNarrower = false;
  for (const formula of flat(formulas)) {
    const rest = restOf(store, formula);
    if (rest === null) return null;
    for (const part of rest.parts) {
      if (part.is === 'or') open.push(part);
      else if (!store.assert(part)) return null;
    }
    isNarrower ||= rest.isCertain;
  }
  return { open, isNarrower };
}

interface Rest {
  readonly parts: readonly (Literal | Alternatives)[];
  /** They hold all: there is no choice among them. */
  readonly isCertain: boolean;
}

const NOTHING_LEFT: Rest = { parts: [], isCertain: false };

/** What of a formula is not known to hold; null where it is impossible. */
function restOf(store: Store, formula: boolean | Literal | Alternatives): Rest | null {
  if (typeof formula === 'boolean') return formula ? NOTHING_LEFT : null;
  if (formula.is !== 'or') return { parts: [formula], isCertain: true };
  const left = formula.any.flatMap((one) => simplified(store, one));
  if (left.includes(true)) return NOTHING_LEFT;
  const [only, ...more] = left;
  if (only === undefined) return null;
  if (more.length > 0) return { parts: [{ is: 'or', any: left }], isCertain: false };
  const parts = flat([only]);
  if (parts.includes(false)) return null;
  return { parts: parts.filter((part) => typeof part !== 'boolean'), isCertain: true };
}

function flat(formulas: readonly Formula[]): readonly (boolean | Literal | Alternatives)[] {
  return formulas.flatMap((one) => (typeof one === 'object' && one.is === 'and' ? flat(one.all) : [one]));
}

/** A part of an alternative as far as it is not known to be impossible: nothing, the part, or true. */
function simplified(store: Store, formula: Formula): readonly Formula[] {
  const seen = truthIn(store, formula);
  if (seen === false) return [];
  return [seen === true ? true : formula];
}

function truthIn(store: Store, formula: Formula): boolean | null {
  if (typeof formula === 'boolean') return formula;
  if (formula.is === 'and') {
    const truths = formula.all.map((one) => truthIn(store, one));
    return truths.includes(false) ? false : truths.includes(null) ? null : true;
  }
  if (formula.is === 'or') {
    const truths = formula.any.map((one) => truthIn(store, one));
    return truths.includes(true) ? true : truths.includes(null) ? null : false;
  }
  return store.seen(formula);
}
