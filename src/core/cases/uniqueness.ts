import { isTextual, isTrimmed } from '../kinds/index.js';
import { type Constraint, fieldAt, type Path, type PredicateOf, type Row, valueAt, withValue } from '../model/index.js';
import { distinct } from './base.js';
import { applied, type Context, type Criterion, carried, type Draft, givenIn } from './context.js';
import { putRaw } from './places.js';

/**
 * A repeat is refused, also where it is one only once it is canonical or folded; with one part of a composite changed, or
 * absent, it is none, and texts that other engines take for the same are different ones.
 */
export const uniqueness: Criterion = (context) =>
  context.model.constraints.flatMap((constraint) =>
    constraint.predicate.op === 'unique' ? repeats(context, constraint, constraint.predicate) : [],
  );

/** Texts that collations take for the same, in place of the last characters of a valid one. */
const twins: readonly (readonly [stored: string, sent: string, words: string])[] = [
  ['\u00e9', 'e\u0301', 'the same letter with its accent as a character of its own (NFC beside NFD)'],
  ['ee', 'e\u00e9', 'the same but for an accent'],
  ['ss', 's\u00df', 'the same but for a sharp s'],
  ['kk', 'k\u212a', 'the same but for the Kelvin sign'],
  ['a\u200ba', 'aa', 'the same but for a zero-width space'],
];

function repeats(
  whole: Context,
  { id: constraint }: Constraint,
  { of, fold }: PredicateOf<'unique'>,
): readonly Draft[] {
  const context = givenIn(whole, of);
  const { model, base, other } = context;
  const twin = applied(other, Object.fromEntries(of.map((path) => [path, valueAt(base, path)])));
  const targets = distinct([...context.before, ...context.otherBefore]);
  const beside = (row: Row) => [...targets, { ruleset: model.ruleset, row }];
  const draft = (wire: 'json' | 'row', reason: string, stored: Row, sent: Row = base): Draft => ({
    constraint,
    reason,
    wire,
    input: carried(context, sent, wire),
    before: beside(stored),
  });
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
  return [
    ...(['json', 'row'] as const).flatMap((wire) => [
      draft(wire, 'the same values as a stored record', twin),
      ...differing.map((path) => draft(wire, `the same but for ${path}`, withValue(twin, path, valueAt(other, path)))),
      ...optional.map((path) =>
        draft(wire, `${path} absent in both`, withValue(twin, path, null), withValue(base, path, null)),
      ),
      ...pairs.map(([path, stored, sent, words]) =>
        draft(wire, words, withValue(twin, path, stored), withValue(base, path, sent)),
      ),
    ]),
    ...trimmed.map((path) => {
      const same = draft('json', 'the same once white space is taken off', twin);
      const input = carried(context, base, 'json');
      putRaw(input, path, ` ${valueAt(base, path)} `, 'json');
      return { ...same, input };
    }),
  ];
}

/** A–Z and a–z, the letters that folding is about. */
function swapCase(text: string): string {
  return text.replace(/[A-Za-z]/g, (letter) => {
    const upper = letter.toUpperCase();
    return upper === letter ? letter.toLowerCase() : upper;
  });
}
