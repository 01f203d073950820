import { type KnownField, type PerKind, valueField } from '../kinds/index.js';
import type { Value, Wire } from '../model/index.js';

type Trap = readonly [raw: unknown, words: string];
type Traps = { readonly [W in Wire]: readonly Trap[] };
/** Traps are made from a valid value, so that nothing but the spelling is wrong. */
type TrapsFor = (value: Value) => Traps;

const damaged: readonly Trap[] = [
  ['ab\u0000cd', 'a null character inside'],
  ['ab\ud800', 'a lone surrogate'],
  ['ab\ufffd', 'the replacement character'],
];
const containers: readonly Trap[] = [
  [[], 'an empty list'],
  [['x'], 'a list'],
  [{}, 'an object'],
];
const notDays: readonly Trap[] = [
  ['2026-02-29', '29 February of a common year'],
  ['1900-02-29', '29 February of a century that has none'],
  ['2026-04-31', 'the 31st of a month of 30 days'],
  ['2026-13-01', 'a thirteenth month'],
  ['2026-00-10', 'a month 0'],
  ['2026-01-00', 'a day 0'],
  ['0000-01-01', 'the year 0'],
  ['0000-00-00', 'a day of zeros only'],
  ['10000-01-01', 'a year of five digits'],
  ['2026-2-3', 'no leading zeros'],
  ['20260203', 'no hyphens'],
  ['02/03/2026', 'slashes, and the year behind'],
  ['2026-W06-2', 'a week'],
  ['2026-02-03T00:00:00', 'a time behind it'],
  ['today', 'a word'],
];

/** A number in quotes, or the text of one without. */
function inOtherType(value: Value): Trap {
  return typeof value === 'number' ? [String(value), 'digits in quotes'] : [Number(value), 'a number without quotes'];
}

const none: Traps = { form: [], json: [], row: [] };

const textTraps: TrapsFor = (value) => ({
  form: [...damaged, [`${value}\u0000`, 'a null character behind it'], [['a', 'b'], 'two entries of one name']],
  json: [
    ...damaged,
    [`${value}\u0000`, 'a null character behind it'],
    ...containers,
    [12, 'a number'],
    [true, 'a boolean'],
  ],
  row: [
    ...damaged,
    [`${value}\u0000x`, 'a null character and more behind it'],
    [`${value}\u0000`, 'a null character behind it'],
    [12, 'a number'],
  ],
});
const notTimes: readonly Trap[] = [
  ['24:00:00', 'the hour 24'],
  ['25:30:00', 'an hour 25'],
  ['12:60:00', 'a minute 60'],
  ['08:75:00', 'a minute 75'],
  ['23:59:60', 'a leap second'],
  ['9:00:00', 'no leading zero'],
  ['09:00:00.1234567', 'a finer fraction than there may be'],
  ['09.00.00', 'dots instead of colons'],
  ['09:00:00Z', 'a zone behind it'],
  ['noon', 'a word'],
];
/** Of a time without seconds. */
const notMinutes: readonly Trap[] = [
  ...notTimes.flatMap(([value, words]): readonly Trap[] =>
    /^[0-9]{2}:[0-9]{2}:00$/.test(String(value)) ? [[String(value).slice(0, 5), words]] : [],
  ),
  ['9:00', 'no leading zero'],
  ['09:00:00', 'seconds'],
  ['09.00', 'a dot instead of a colon'],
  ['0900', 'no colon'],
  ['09:00Z', 'a zone behind it'],
  ['noon', 'a word'],
];
const notMoments = (end: string): readonly Trap[] => [
  [`2026-02-30T09:00:00${end}`, 'a day that is none'],
  [`1900-02-29T09:00:00${end}`, '29 February of a century that has none'],
  [`2026-03-02 09:00:00${end}`, 'a space between day and time'],
  [`2026-03-02T24:00:00${end}`, 'the hour 24'],
  [`2026-03-02T23:60:00${end}`, 'a minute 60'],
  [`2026-03-02T23:59:60${end}`, 'a leap second'],
  [`2026-03-02T09:00:00.1234567${end}`, 'a finer fraction than there may be'],
  ['2026-03-02', 'a day alone'],
  ['now', 'a word'],
];
const momentTraps =
  (traps: readonly Trap[]): TrapsFor =>
  () => ({
    form: traps,
    json: [...traps, ...containers, [0, 'a number']],
    row: traps,
  });

/** What is near the grammar of a kind and not in it; some of it is read as a value by careless layers. */
const traps: PerKind<TrapsFor> = {
  text: textTraps,
  email: textTraps,
  url: textTraps,
  uuid: textTraps,
  ip: textTraps,
  decimal: (value) => ({
    form: [
      [`${value}e0`, 'an exponent'],
      [`0${value}`, 'a leading zero'],
      [`+${value}`, 'a plus sign'],
      [`\u2212${value}`, 'the sign for minus instead of the hyphen'],
      [` ${value} `, 'spaces around it'],
      [`${String(value).split('.')[0]},5`, 'a decimal comma'],
      [`1,${String(value).padStart(6, '0')}`, 'a comma between thousands'],
      [`${value}abc`, 'letters behind the digits'],
      ['0x10', 'hexadecimal'],
      ['\uff11\uff12', 'full-width digits'],
      ['.5', 'no digit before the point'],
      ['5.', 'no digit behind the point'],
      ['NaN', 'the word NaN'],
      ['Infinity', 'the word Infinity'],
      ['', 'nothing'],
    ],
    json: [...containers, [true, 'a boolean'], ['1,5', 'a decimal comma'], inOtherType(value)],
    row: [inOtherType(value), ['1,5', 'a decimal comma'], ['abc', 'a word']],
  }),
  time: (value) => momentTraps(String(value).length === 5 ? notMinutes : notTimes)(value),
  dateTime: momentTraps([...notMoments(''), ['2026-03-02T09:00:00Z', 'a zone behind it']]),
  timestamp: momentTraps([
    ...notMoments('Z'),
    ['2026-03-02T09:00:00', 'no zone'],
    ['2026-03-02T09:00:00-00:00', 'an offset that means unknown'],
    ['2026-03-02T09:00:00+0100', 'an offset without its colon'],
    ['2026-03-02T09:00:00+24:00', 'an offset of a whole day'],
    ['2026-03-02T09:00:00z', 'a small z'],
    ['2026-03-02T09:00:00 UTC', 'the name of a zone'],
    ['0001-01-01T00:00:00+01:00', 'the year 0 once it is in UTC'],
  ]),
  record: () => none,
  list: () => none,
  integer: (value) => ({
    form: [
      [`${value}e0`, 'an exponent'],
      [`0${value}`, 'a leading zero'],
      [`+${value}`, 'a plus sign'],
      [`\u2212${value}`, 'the sign for minus instead of the hyphen'],
      ['-0', 'minus zero'],
      [`1,${String(value).padStart(3, '0')}`, 'a comma between thousands'],
      ['\uff11\uff12', 'full-width digits'],
      ['', 'nothing'],
      [`0x${Number(value).toString(16)}`, 'hexadecimal'],
      [`${value}abc`, 'letters behind the digits'],
      [`${value},5`, 'a decimal comma'],
      [`${value}.0`, 'a fraction of zero'],
      [` ${value} `, 'spaces around it'],
      ['1_0', 'a digit separator'],
      ['٣', 'a digit of another script'],
      ['abc', 'a word'],
      ['9007199254740993', 'a number beyond the safe integers'],
      [['1', '2'], 'two entries of one name'],
    ],
    json: [
      ...containers,
      [String(value), 'digits in quotes'],
      [Number(value) + 0.5, 'a fraction'],
      [true, 'a boolean'],
      [1e21, 'beyond the safe integers'],
    ],
    row: [
      [Number(value) + 0.5, 'a fraction'],
      [`${value}abc`, 'letters behind the digits'],
      [`0${value}`, 'a leading zero, as text'],
      ['abc', 'a word'],
    ],
  }),
  choice: (value) => ({
    form: [
      [['none', 'none'], 'two entries of one name'],
      [`${value}abc`, 'letters behind the code'],
      ...(typeof value === 'number'
        ? ([
            [`${value}e0`, 'an exponent'],
            [` ${value} `, 'spaces around it'],
            [`${value}.0`, 'a fraction of zero'],
          ] as const)
        : []),
    ],
    json: [...containers, [0, 'the position as a number'], [true, 'a boolean']],
    row: [[0, 'the position as a number']],
  }),
  date: () => ({
    form: notDays,
    json: [...notDays, ...containers, [20260203, 'a number']],
    row: [...notDays, ['infinity', "a word that an engine's own type reads"]],
  }),
  boolean: () => ({
    form: [
      ['yes', 'a word'],
      ['TRUE', 'capitals'],
      ['1', 'a digit'],
      ['off', 'the word off'],
      [['false', 'true'], 'false and then true: the hidden entry, and the ticked box'],
      [['true', 'false'], 'true and then false: the last entry counts'],
    ],
    json: [...containers, ['true', 'the word in quotes'], [1, 'the number 1'], [0, 'the number 0']],
    row: [
      ['yes', 'a word'],
      [2, 'the number 2'],
    ],
  }),
  reference: () => none,
};

/** The traps of a field's kind on a wire, made from a valid value. */
export function trapsFor(field: KnownField, value: Value, wire: Wire): readonly Trap[] {
  return traps[valueField(field).kind](value)[wire];
}
