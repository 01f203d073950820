import { isTextual, isTrimmed } from '../kinds/index.js';
import { uniqueKeysOf } from '../meaning/index.js';
import {
  type Constraint,
  fieldAt,
  listsOf,
  type Path,
  type PredicateOf,
  type Row,
  valueAt,
  withValue,
} from '../model/index.js';
import { sourcesOf } from '../operators/index.js';
import { caseClock } from './clock.js';
import { applied, brokenRules, type Context, type Criterion, carried, type Draft, givenIn } from './context.js';
import { putRaw } from './places.js';
import { withTargets } from './targets.js';
import { conditionRows } from './unique-conditions.js';

/**
 * A repeat is refused, also where it is one only once it is canonical or folded; with one part of a composite changed, or
 * absent, it is none, and texts that other engines take for the same are different ones. A rule with a condition is about
 * those records for which it is true, and no others.
 */
export const uniqueness: Criterion = (context) =>
  context.model.constraints.flatMap((constraint) => {
    const { predicate } = constraint;
    if (predicate.op !== 'unique' || predicate.of.some((path) => listsOf(path).length > 0)) return [];
    // A value that the store gives is sent by nobody.
    const isGiven = ({ generated, derivation }: ReturnType<typeof fieldAt>) =>
      generated !== null && derivation === null;
    if (predicate.of.some((path) => isGiven(fieldAt(context.model, path)))) return [];
    return repeats(context, constraint, predicate);
  });

/** Texts that collations take for the same, in place of the last characters of a valid one. */
const twins: readonly (readonly [stored: string, sent: string, words: string])[] = [
  ['\u00e9', 'e\u0301', 'the same letter with its accent as a character of its own (NFC beside NFD)'],
  ['ee', 'e\u00e9', 'the same but for an accent'],
  ['ss', 's\u00df', 'the same but for a sharp s'],
  ['kk', 'k\u212a', 'the same but for the Kelvin sign'],
  ['a\u200ba', 'aa', 'the same but for a zero-width space'],
];

function repeats(whole: Context, constraint: Constraint, predicate: PredicateOf<'unique'>): readonly Draft[] {
  const of = [...new Set(predicate.of.flatMap((path) => sourcesOf(path, whole.model)))];
  const given = givenIn(whole, of);
  const { among, fold } = predicate;
  if (among === null)
    return [...around(given, constraint.id, of, fold, given.base, []), ...byItself(given, constraint, of, [])];
  const { met, others } = conditionRows(given, constraint, among, of);
  // Where no record meets it, none repeats another all the same.
  if (met === null)
    return others.flatMap((row) => besideTheCondition({ ...given, base: row }, constraint.id, of, [], row));
  // What the condition is about must be the same in both, or one of them is not among those that differ.
  const about = [...new Set(constraint.subjects.filter((path) => !of.includes(path)))];
  const holding = { ...given, base: met };
  return [
    ...around(holding, constraint.id, of, fold, met, about),
    ...byItself(holding, constraint, of, about),
    ...others.flatMap((row) => besideTheCondition(holding, constraint.id, of, about, row)),
  ];
}

/** Texts of which nothing is left in a derived one, such as a slug. */
const SIGNS = ['!', '-', '.', '?', '/'];

/**
 * A repeat that no other rule refuses, where another unique rule is over what is derived from the same fields: with a text
 * from which nothing is derived.
 */
function byItself(
  context: Context,
  { id, predicate }: Constraint,
  of: readonly Path[],
  about: readonly Path[],
): readonly Draft[] {
  const { model, base } = context;
  const others = model.constraints.flatMap((one) => {
    const isOther =
      one.predicate.op === 'unique' && one.id !== id && one.predicate.of.every((path) => listsOf(path).length === 0);
    if (one.predicate.op !== 'unique' || !isOther) return [];
    const sources = one.predicate.of.flatMap((path) => sourcesOf(path, model));
    return sources.every((path) => of.includes(path)) ? [one.predicate] : [];
  });
  if (others.length === 0 || predicate.op !== 'unique') return [];
  const keysOf = (row: Row, unique: PredicateOf<'unique'>) => uniqueKeysOf(model, row, unique, caseClock(model));
  for (const path of of.filter((one) => isTextual(fieldAt(model, one)))) {
    for (const sign of SIGNS) {
      const text = sign.repeat(Math.max(Number(fieldAt(model, path).facets.minLength ?? 1), 1));
      const row = context.settle(withValue(base, path, text), [...of, ...about], id);
      const isApart = others.every((other) => keysOf(row, other).length === 0);
      if (!isApart || keysOf(row, predicate).length === 0 || brokenRules(context, row).length > 0) continue;
      const twin = twinOf(context, row, of, row, about);
      const before = [...withTargets(context, [row, twin]), { ruleset: model.ruleset, row: twin }];
      const reason = 'the same values as a stored record, which no other rule refuses';
      return (['json', 'row'] as const).map((wire) => ({
        constraint: id,
        reason,
        wire,
        input: carried(context, row, wire),
        before,
      }));
    }
  }
  return [];
}

/** A record for which the condition does not hold, as the one that is sent, the one that is stored, and both. */
function besideTheCondition(
  context: Context,
  constraint: string,
  of: readonly Path[],
  about: readonly Path[],
  row: Row,
): readonly Draft[] {
  const { base, model } = context;
  const pairs: readonly (readonly [sent: Row, stored: Row, words: string])[] = [
    [row, base, 'the same values, but the condition does not hold for the record that is sent'],
    [base, row, 'the same values, but the condition does not hold for the record that is stored'],
    [row, row, 'the same values, and the condition holds for neither'],
  ];
  return pairs.flatMap(([sent, like, words]) => {
    const stored = twinOf(context, sent, of, like, about);
    const holds = [sent, stored].every((one) => brokenRules(context, one).length === 0);
    if (!holds) return [];
    const before = [...withTargets(context, [sent, stored]), { ruleset: model.ruleset, row: stored }];
    return (['json', 'row'] as const).map((wire) => ({
      constraint,
      reason: words,
      wire,
      input: carried(context, sent, wire),
      before,
    }));
  });
}

/** Another record with the same values in some fields as one record, and in others as another. */
function twinOf({ other }: Context, same: Row, of: readonly Path[], like: Row, about: readonly Path[]): Row {
  const values = (row: Row, paths: readonly Path[]) =>
    Object.fromEntries(paths.map((path) => [path, valueAt(row, path)]));
  return applied(applied(other, values(like, about)), values(same, of));
}

function around(
  context: Context,
  constraint: string,
  of: readonly Path[],
  fold: PredicateOf<'unique'>['fold'],
  base: Row,
  about: readonly Path[],
): readonly Draft[] {
  const { model, other } = context;
  const twin = twinOf(context, base, of, base, about);
  const beside = (stored: Row, sent: Row) => [
    ...withTargets(context, [sent, stored]),
    { ruleset: model.ruleset, row: stored },
  ];
  const isValid = (row: Row) => brokenRules(context, row).length === 0;
  // A stored record keeps the other rules.
  const draft = (wire: 'json' | 'row', reason: string, stored: Row, sent: Row = base): readonly Draft[] =>
    isValid(stored)
      ? [{ constraint, reason, wire, input: carried(context, sent, wire), before: beside(stored, sent) }]
      : [];
  const optional = of.filter((path) => fieldAt(model, path).optional);
  const trimmed = of.filter((path) => isTrimmed(fieldAt(model, path)) && valueAt(base, path) !== null);
  const differing = of.length < 2 ? [] : of.filter((path) => valueAt(other, path) !== valueAt(base, path));
  const texts = of.filter((path) => isTextual(fieldAt(model, path)) && valueAt(base, path) !== null);
  const fits = (path: Path, text: string) => context.brokenWith(path, text).length === 0;
  const pairs = texts.flatMap((path) => {
    const value = String(valueAt(base, path));
    const swapped = swapCase(value);
    const words =
      fold === 'case' ? 'the same in the other letter case' : 'the same letters in the other case, another value';
    return [
      ...(swapped === value ? [] : [[path, value, swapped, words] as const]),
      ...twins.map(([stored, sent, said]) => {
        const kept = [...value].slice(0, -3).join('');
        return [path, kept + stored, kept + sent, said] as const;
      }),
    ].filter(([, stored, sent]) => fits(path, stored) && fits(path, sent));
  });
  // A value alone that repeats, where only all of them together must not.
  const repeated = differing.map((path) => [path, withValue(twin, path, valueAt(other, path))] as const);
  return [
    ...(['json', 'row'] as const).flatMap((wire) => [
      ...draft(wire, 'the same values as a stored record', twin),
      ...repeated.flatMap(([path, row]) => draft(wire, `the same but for ${path}`, row)),
      ...optional.flatMap((path) =>
        draft(wire, `${path} absent in both`, withValue(twin, path, null), withValue(base, path, null)),
      ),
      ...pairs.flatMap(([path, stored, sent, words]) =>
        draft(wire, words, withValue(twin, path, stored), withValue(base, path, sent)),
      ),
    ]),
    ...trimmed.flatMap((path) =>
      draft('json', 'the same once white space is taken off', twin).map((same) => {
        const input = carried(context, base, 'json');
        putRaw(input, path, ` ${valueAt(base, path)} `, 'json');
        return { ...same, input };
      }),
    ),
  ];
}

/** A–Z and a–z, the letters that folding is about. */
function swapCase(text: string): string {
  return text.replace(/[A-Za-z]/g, (letter) => {
    const upper = letter.toUpperCase();
    return upper === letter ? letter.toLowerCase() : upper;
  });
}
