import {
  exactOf,
  exactText,
  type Field,
  fieldTerm,
  isMultiple,
  literalTerm,
  multipleBeyond,
  multiply,
  type Predicate,
  add as plus,
  type Value,
} from '../model/index.js';
import type { Edge, FacetRule, Kind } from './kind.js';
import { refused } from './kind.js';
import { limitEdges, limitRules, multipleEdges } from './limits.js';
import { scalar } from './scalar.js';

/** One spelling for each number but for zeros that end its fraction: no plus sign, leading zero or exponent. */
const decimalGrammar = '-?(?:0|[1-9][0-9]*)(?:\\.[0-9]+)?';
const SPELLING = new RegExp(`^${decimalGrammar}$`);
/** No number that anybody means is longer; reading a longer one would take time. */
const mostDigitsRead = 400;
/** A number of so many significant digits goes into a JavaScript number and back without loss. */
const MOST_DIGITS_IN_NUMBER = 15;

/** True where values are JavaScript numbers; beyond 15 digits they are canonical decimal text. */
export function isNumeric({ facets }: Field): boolean {
  return Number(facets.precision) <= MOST_DIGITS_IN_NUMBER;
}

export function scaleOf({ facets }: Field): number {
  return Number(facets.scale ?? 0);
}

/** The least number that has too many digits before its point, as text. */
function beyondPrecision({ facets }: Field): string {
  return `1${'0'.repeat(Number(facets.precision) - Number(facets.scale ?? 0))}`;
}

/** The value of decimal text, or null where a JavaScript number would not hold it exactly. */
function heldValue(field: Field, text: string): Value {
  const exact = exactOf(text);
  if (exact === null) return null;
  const canonical = exactText(exact);
  if (!isNumeric(field)) return canonical;
  const back = exactOf(Number(canonical));
  return back !== null && exactText(back) === canonical ? Number(canonical) + 0 : null;
}

/** The step between neighbouring values, as text. */
function unitOf(field: Field): string {
  const scale = scaleOf(field);
  return scale === 0 ? '1' : `0.${'1'.padStart(scale, '0')}`;
}

function stepped(field: Field, value: Value, by: number): Value {
  const [exact, unit, count] = [exactOf(value), exactOf(unitOf(field)), exactOf(by)];
  if (exact === null || unit === null || count === null) return null;
  return heldValue(field, exactText(plus(exact, multiply(unit, count))));
}

/** Amounts that people write; a limit that moves past one of them leaves the others where they are. */
const USUAL = [
  '12.5',
  '40',
  '7.25',
  '20',
  '3.5',
  '0.5',
  '1',
  '100',
  '15.75',
  '64',
  '250',
  '0.25',
  '700',
  '980',
  '1200',
];

/** An exact decimal number: at most `precision` digits, `scale` of them after the point. Nothing is ever rounded. */
export const decimal: Kind = {
  ...scalar,
  domain: 'number',
  facets: {
    precision: 'positive whole number',
    scale: 'count',
    min: 'decimal',
    max: 'decimal',
    step: 'positive decimal',
  },
  grammar: {
    form: '`-?(0|[1-9][0-9]*)(\\.[0-9]+)?`; zeros that end the fraction are dropped',
    json: 'a JSON number where `precision` is 15 or less, otherwise a string as on a form',
    row: 'a number where `precision` is 15 or less, otherwise its canonical text',
  },
  decode(field, input, wire) {
    if (wire !== 'form' && isNumeric(field)) {
      return typeof input === 'number' && Number.isFinite(input) ? { value: input + 0 } : refused;
    }
    if (typeof input !== 'string' || input.length > mostDigitsRead || !SPELLING.test(input)) return refused;
    const value = heldValue(field, input);
    return value === null || (wire === 'row' && value !== input) ? refused : { value };
  },
  encode(field, value, wire) {
    const exact = exactOf(value);
    return wire === 'form' && exact !== null && isNumeric(field) ? exactText(exact) : value;
  },
  rules(field) {
    const of = fieldTerm(field.path);
    const within = (by: '<' | '>', limit: string): Predicate => ({
      op: 'compare',
      left: of,
      by,
      right: literalTerm(limit, 'number'),
      domain: 'number',
    });
    const most = beyondPrecision(field);
    const multiple = (facet: string, step: string | number, limit: string | number): FacetRule => ({
      facet,
      stage: facet === 'step' ? 'comparison' : 'form',
      limit,
      predicate: { op: 'multiple', of, step },
    });
    const { step } = field.facets;
    return [
      {
        facet: 'precision',
        stage: 'form',
        limit: Number(field.facets.precision) - scaleOf(field),
        predicate: { op: 'and', all: [within('<', most), within('>', `-${most}`)] },
      },
      multiple('scale', unitOf(field), scaleOf(field)),
      ...limitRules(field, 'number'),
      ...(typeof step === 'number' || typeof step === 'string' ? [multiple('step', step, step)] : []),
    ];
  },
  edges(field) {
    const edges: Edge[] = [];
    const most = beyondPrecision(field);
    const add = (facet: string, value: Value, words: string) => {
      if (value !== null) edges.push({ facet, value, words });
    };
    add('precision', heldValue(field, most), 'one digit too many before the point');
    add('precision', stepped(field, most, -1), 'the greatest number of so many digits');
    // Below the limit where there is only one above, so that nothing else is wrong with it.
    const { min, max } = field.facets;
    if (min === undefined && max !== undefined)
      add('precision', heldValue(field, `-${most}`), 'one digit too many before the point, below zero');
    const base = exactOf(min ?? max ?? 0);
    const finer = { digits: min === undefined && max !== undefined ? -1n : 1n, scale: scaleOf(field) + 1 };
    const between = base === null ? finer : plus(base, finer);
    add('scale', heldValue(field, exactText(between)), 'one digit too many after the point');
    add('type', heldValue(field, '0'), 'zero, which is a value and not missing');
    const step = exactOf(field.facets.step);
    const beyond = exactOf(most);
    if (step !== null && beyond !== null) {
      const multiple = exactText(multipleBeyond(beyond, step, 1));
      add('precision', heldValue(field, multiple), 'a multiple of the step of one digit too many');
      const usual = multipleBeyond(exactOf(min ?? 0) ?? beyond, step, 1);
      add('step', stepped(field, exactText(usual), 1), 'one unit more than a multiple of the step');
    }
    return [
      ...edges,
      ...limitEdges(field, (value, to) => stepped(field, value, to), [null, null]),
      ...multipleEdges(field, unitOf(field), (text) => heldValue(field, text)),
    ];
  },
  sample(field, seed) {
    const { min, max, step } = field.facets;
    const unit = exactOf(step ?? unitOf(field)) ?? { digits: 1n, scale: 0 };
    const inUnits = (value: Value) => {
      const exact = exactOf(value) ?? { digits: 0n, scale: 0 };
      const scale = Math.max(exact.scale, unit.scale);
      return (exact.digits * 10n ** BigInt(scale - exact.scale)) / (unit.digits * 10n ** BigInt(scale - unit.scale));
    };
    const beyond = inUnits(beyondPrecision(field)) - 1n;
    const least =
      min === undefined ? (max !== undefined && inUnits(max) < 0n ? inUnits(max) - 1000n : 0n) : inUnits(min);
    // Without a limit, numbers of a size that people are used to.
    const ordinary = least + inUnits('1000');
    const most = max !== undefined ? inUnits(max) : ordinary < beyond ? ordinary : beyond;
    const within = USUAL.filter((value) => {
      const exact = exactOf(value);
      return exact !== null && isMultiple(exact, unit) && inUnits(value) >= least && inUnits(value) <= most;
    }).map(inUnits);
    // A value at a limit meets the mistakes that are about the limit: those within come first.
    const isLimit = (count: bigint) =>
      (min !== undefined && count === inUnits(min)) || (max !== undefined && count === inUnits(max));
    const usual = [...within.filter((count) => !isLimit(count)), ...within.filter(isLimit)];
    const span = most - least + 1n > 0n ? most - least + 1n : 1n;
    const others = span - BigInt(usual.length);
    let count = usual[others > 0n ? seed : seed % usual.length];
    let left = others > 0n ? BigInt(seed - usual.length) % others : 0n;
    for (let at = span / 2n; count === undefined; at += 1n) {
      const value = least + (at % span);
      if (!usual.includes(value) && left-- === 0n) count = value;
    }
    const value = heldValue(field, exactText(multiply(unit, { digits: count, scale: 0 })));
    return value ?? 0;
  },
};
