import {
  addDays,
  addSeconds,
  addSecondsToDateTime,
  canonicalDateTime,
  canonicalInstant,
  canonicalTime,
  canonicalValue,
  decodeValue,
  type KnownField,
  kindOf,
  sampleOf,
  secondsOf,
  stepSeconds,
  valueDomain,
  valueField,
  valuesOf,
} from '../kinds/index.js';
import { readClock } from '../meaning/index.js';
import {
  type Domain,
  type Field,
  fieldAt,
  type Model,
  type Pattern,
  type Predicate,
  type Term,
  type Value,
} from '../model/index.js';
import { mentionsOf, wholeValue } from '../operators/index.js';
import { caseClock } from './clock.js';
import { Grammars } from './grammars.js';

/** Codes and short names that people give are about so long. */
const USUAL_LENGTH = 8;

/** Plausible values of a field, the most plausible first. `seed` gives other ones, as far as there are any. */
export function candidatesOf(
  field: KnownField,
  seed: number,
  grammars = new Grammars(),
): readonly Exclude<Value, null>[] {
  const inner = valueField(field);
  const seeds = Array.from({ length: 8 }, (_, more) => seed + more);
  if (inner.facets.pattern == null) {
    const samples = seeds.map((one) => sampleOf(field, one));
    return [...new Set([...samples, ...(valuesOf(inner) ?? [])])];
  }
  return wordsOf(inner, seeds, grammars);
}

/** Words that people know, where the pattern takes them; then words of the pattern, of a length that the field allows. */
function wordsOf(field: KnownField, seeds: readonly number[], grammars: Grammars): readonly string[] {
  const pattern = field.facets.pattern as Pattern;
  const samples = seeds.map((seed) => String(sampleOf(field, seed)));
  const known = [...samples, ...samples.map((word) => word.toUpperCase())].filter((word) => fitsWhole(pattern, word));
  if (known.length >= seeds.length) return known;
  if (grammars.routesOf(pattern) === null) return samples;
  const least = Number(field.facets.minLength ?? 1);
  const most = Number(field.facets.maxLength ?? 60);
  const fits = (word: string | null): word is string =>
    word !== null && word.trim() === word && word.length >= least && [...word].length <= most && word !== '';
  const words = seeds.flatMap((seed) => grammars.wordsOf(pattern, seed).filter(fits));
  const exact = seeds.map((seed) => grammars.wordOfLength(pattern, least, seed)).filter(fits);
  const unlikely = (word: string) => Math.abs(word.length - USUAL_LENGTH);
  return [...new Set([...known, ...[...words, ...exact].sort((a, b) => unlikely(a) - unlikely(b))])];
}

/** Short words only are held against a pattern: on them none takes long. */
function fitsWhole(pattern: Pattern, word: string): boolean {
  return word.length <= 12 && wholeValue(pattern).test(word);
}

/** The values of a field that a rule turns on: its literals, the clock's, a step to each side, and every choice. */
export function pivotsOf(model: Model, path: string, predicate: Predicate): readonly Value[] {
  const field = fieldAt(model, path);
  const inner = valueField(field);
  const { domain } = kindOf(inner);
  const literals = [...literalsFor(path, predicate), ...clockValues(path, predicate, model)];
  const lengths = domain === 'text' && inner.facets.pattern == null ? lengthsIn(predicate) : [];
  const plain = domain === 'number' ? literals.flatMap(wholeAround) : literals;
  const texts = lengths.map((length) => 'a'.repeat(length));
  const turning = [...literals, ...texts, ...plain.flatMap((value) => stepsFrom(inner, value))];
  return [
    ...new Set([
      ...turning.map((value) => spelled(inner as KnownField, domain, value)),
      ...(valuesOf(inner) ?? []),
      ...(field.optional ? [null] : []),
    ]),
  ];
}

/** The day or the moment of the cases' clock, where a field is compared with it. */
function clockValues(path: string, predicate: Predicate, model: Model): readonly Value[] {
  if (predicate.op === 'and') return predicate.all.flatMap((one) => clockValues(path, one, model));
  if (predicate.op === 'or') return predicate.any.flatMap((one) => clockValues(path, one, model));
  if (predicate.op === 'not') return clockValues(path, predicate.holds, model);
  if (predicate.op !== 'compare') return [];
  const { left, right } = predicate;
  const beside = [...(mentionsField(path, left) ? [right] : []), ...(mentionsField(path, right) ? [left] : [])];
  const reading = readClock(caseClock(model), model.zone);
  return beside.flatMap((term) => (term.term === 'clock' ? [reading[term.reads]] : []));
}

const momentSpellings: { readonly [domain: string]: typeof canonicalTime } = {
  instant: canonicalInstant,
  local: canonicalDateTime,
  time: canonicalTime,
};

/**
 * A number as the field holds it, where it can; a moment with as many digits of a second's fraction as the field has;
 * other values as they are.
 */
function spelled(field: KnownField, domain: Domain, value: Value): Value {
  if (domain === 'number') {
    const decoded = decodeValue(field, String(value), 'form');
    return 'value' in decoded && decoded.value !== null ? canonicalValue(field, decoded.value) : value;
  }
  const canonical = momentSpellings[domain];
  if (canonical === undefined || typeof value !== 'string') return value;
  const seconds = secondsOf(field);
  const coarse = seconds === 'none' ? value.slice(0, 5) : value.replace(/\.\d+/, '');
  return canonical(value, seconds, false) ?? canonical(coarse, seconds, false);
}

/** Texts longer than this are not made for a rule. */
const MOST_CHARACTERS = 60;

/** The lengths around those that a predicate compares a text's with. */
export function lengthsIn(predicate: Predicate): readonly number[] {
  if (predicate.op === 'and') return predicate.all.flatMap(lengthsIn);
  if (predicate.op === 'or') return predicate.any.flatMap(lengthsIn);
  if (predicate.op === 'not') return lengthsIn(predicate.holds);
  if (predicate.op !== 'compare') return [];
  const { left, right } = predicate;
  const limits = [...(left.term === 'length' ? literal(right) : []), ...(right.term === 'length' ? literal(left) : [])];
  return limits
    .flatMap((limit) => [Number(limit) - 1, Number(limit), Number(limit) + 1])
    .filter((length) => length > 0 && length <= MOST_CHARACTERS);
}

/** A number that is compared with may be written as text, and no whole one. */
function wholeAround(value: Value): readonly Value[] {
  const number = Number(value);
  return value === null || Number.isNaN(number) ? [] : [...new Set([Math.floor(number), Math.ceil(number)])];
}

/** What is so many days, or seconds, after a value of a domain; null where there is none. */
const moved: { readonly [domain: string]: (value: string, by: number) => string | null } = {
  date: addDays,
  instant: addSecondsToDateTime,
  local: addSecondsToDateTime,
  time: addSeconds,
};

/** The value and its neighbours in the field's order; those of a time are as far as its step, or a minute without seconds. */
export function stepsFrom(field: Field, value: Value): readonly Value[] {
  const domain = valueDomain(field);
  if (typeof value === 'number') return [value, value - 1, value + 1];
  if (typeof value !== 'string') return [value];
  const move = moved[domain];
  const by = domain === 'time' ? stepSeconds(valueField(field)) : 1;
  if (move !== undefined) return [value, move(value, -by), move(value, by)].filter((one) => one !== null);
  return domain === 'text' ? [value, `${value}x`] : [value];
}

/** The literals that a predicate compares a field with. */
function literalsFor(path: string, predicate: Predicate): readonly Value[] {
  switch (predicate.op) {
    case 'and':
      return predicate.all.flatMap((inner) => literalsFor(path, inner));
    case 'or':
      return predicate.any.flatMap((inner) => literalsFor(path, inner));
    case 'not':
      return literalsFor(path, predicate.holds);
    case 'member':
      return mentionsField(path, predicate.of) ? predicate.among : [];
    case 'compare':
      return [
        ...(mentionsField(path, predicate.left) ? comparedTo(predicate.left, literal(predicate.right)) : []),
        ...(mentionsField(path, predicate.right) ? comparedTo(predicate.right, literal(predicate.left)) : []),
      ];
    default:
      return [];
  }
}

/**
 * What a term's field is compared with: of its year, the days at which that begins and ends; of a distance, the value that
 * it is measured from or to.
 */
function comparedTo(term: Term, literals: readonly Value[]): readonly Value[] {
  if (term.term === 'days' || term.term === 'months' || term.term === 'seconds') return term.of.flatMap(literal);
  if (term.term !== 'year') return without(literals, term);
  return literals.flatMap((year) => ['01-01', '12-31'].map((day) => `${String(year).padStart(4, '0')}-${day}`));
}

/** What is compared with, and the same less whatever number is added to the field. */
function without(literals: readonly Value[], term: Term): readonly Value[] {
  const added = Object.values(term).flatMap((part: unknown) =>
    typeof part === 'object' && part !== null && 'term' in part ? literal(part as Term) : [],
  );
  const less = literals.flatMap((value) =>
    added.flatMap((more) => (typeof more === 'number' ? [Number(value) - more, Number(value) + more] : [])),
  );
  return [...literals, ...less.filter((value) => !Number.isNaN(value))];
}

function mentionsField(path: string, term: Term): boolean {
  return mentionsOf(term).includes(path);
}

function literal(term: Term): readonly Value[] {
  return term.term === 'literal' ? [term.value] : [];
}
