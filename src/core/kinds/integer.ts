import { fieldTerm } from '../model/index.js';
import type { Kind } from './kind.js';
import { refused } from './kind.js';
import { limitEdges, limitRules, multipleEdges } from './limits.js';
import { scalar } from './scalar.js';

/** One spelling for each number: no plus sign, no leading zero, no exponent, no fraction. */
const integerGrammar = '-?(?:0|[1-9][0-9]*)';
const SPELLING = new RegExp(`^${integerGrammar}$`);

/** Numbers that people write; a limit that moves past one of them leaves the others where they are. */
const USUAL = [12, 20, 7, 3, 30, 2, 1, 15, 50, 100, 250, 400, 1000, 1200, 650, 800, 950, 1500, 2000, 5000, 10000];

/** A whole number within the safe integers of ECMAScript. */
export const integer: Kind = {
  ...scalar,
  domain: 'number',
  facets: { min: 'whole number', max: 'whole number', step: 'positive whole number' },
  grammar: {
    form: '`-?(0|[1-9][0-9]*)`, within the safe integers',
    json: 'a JSON number without a fraction, within the safe integers',
    row: 'a whole number within the safe integers',
  },
  decode(_field, input, wire) {
    if (wire === 'form' && (typeof input !== 'string' || !SPELLING.test(input))) return refused;
    const value = wire === 'form' ? Number(input) : input;
    // Adding 0 turns -0 into 0, its one spelling.
    return typeof value === 'number' && Number.isSafeInteger(value) ? { value: value + 0 } : refused;
  },
  encode: (_field, value, wire) => (wire === 'form' ? String(value) : value),
  rules: (field) => [
    ...limitRules(field, 'number'),
    ...(typeof field.facets.step === 'number'
      ? [
          {
            facet: 'step',
            stage: 'comparison' as const,
            limit: field.facets.step,
            predicate: { op: 'multiple' as const, of: fieldTerm(field.path), step: field.facets.step },
          },
        ]
      : []),
  ],
  edges: (field) => [
    ...limitEdges(field, (value, to) => Number(value) + to, [
      { facet: 'type', value: Number.MIN_SAFE_INTEGER, words: 'the least safe integer' },
      { facet: 'type', value: Number.MAX_SAFE_INTEGER, words: 'the greatest safe integer' },
    ]),
    ...multipleEdges(field, '1', Number),
    ...(Number(field.facets.min ?? 0) <= 0 && Number(field.facets.max ?? 0) >= 0
      ? [{ facet: 'type', value: 0, words: 'zero, which is a value and not missing' }]
      : []),
    ...(typeof field.facets.step === 'number' && field.facets.step > 1
      ? [{ facet: 'step', value: field.facets.step * 2 + 1, words: 'one more than a multiple of the step' }]
      : []),
  ],
  sample(field, seed) {
    const { min, max, step } = field.facets;
    const unit = typeof step === 'number' ? step : 1;
    const least = typeof min === 'number' ? min : typeof max === 'number' && max < 0 ? max - 1000 : 0;
    const most = typeof max === 'number' ? max : Math.max(least, 0) + 1000;
    const isLimit = (value: number) => value === min || value === max;
    const within = USUAL.filter((value) => value >= least && value <= most && value % unit === 0);
    // A value at a limit meets the mistakes that are about the limit: those within come first.
    const usual = [...within.filter((value) => !isLimit(value)), ...within.filter(isLimit)];
    const first = Math.ceil(least / unit);
    const span = Math.max(Math.floor(most / unit) - first + 1, 1);
    const others = span - usual.length;
    const middle = Math.floor(span / 2);
    if (usual.length > 0 && (seed < usual.length || others <= 0)) return usual[seed % usual.length] ?? first * unit;
    let left = (seed - usual.length) % Math.max(others, 1);
    for (let at = middle; ; at += 1) {
      const value = (first + (at % span)) * unit;
      if (!usual.includes(value) && left-- === 0) return value;
    }
  },
};
