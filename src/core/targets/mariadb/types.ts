import {
  codesOf,
  firstDate,
  fractionOf,
  hasIntegerCodes,
  isNumeric,
  type KnownField,
  lastDate,
  type PerKind,
  scaleOf,
} from '../../kinds/index.js';
import type { Fidelity, Pattern } from '../../model/index.js';
import {
  altering,
  binary,
  type ColumnType,
  call,
  column,
  digitsPattern,
  longest,
  momentPattern,
  rangeOf,
  type Sql,
  safeInteger,
  shownBare,
  shownDigits,
  shownFraction,
  shownMoment,
  shownNumber,
  shownOtherwise,
  type Table,
  wholePattern,
} from '../sql/index.js';
import { quoteText } from './names.js';
import { matchesPattern } from './patterns.js';
import { checkable } from './readings.js';
import { isLookedUp, textType } from './text-types.js';

const exact: Fidelity = { is: 'exact' };

type Typed = (field: KnownField, table: Table) => ColumnType;

/** The smallest integer type that holds the range; a safe integer needs bigint. */
function integerType({ least, most }: ReturnType<typeof rangeOf>): string {
  const types = [
    ['tinyint', 7],
    ['smallint', 15],
    ['mediumint', 23],
    ['int', 31],
  ] as const;
  const fits = types.find(([, bits]) => least >= -(2 ** bits) && most < 2 ** bits);
  return fits?.[0] ?? 'bigint';
}

/** U+0000 is a character to the engine; drivers send a lone surrogate as U+FFFD. */
const undamaged = (of: Sql): Sql => binary(of, 'NOT REGEXP', { text: '[\\x{0}\\x{fffd}]' });

const text: Typed = (field, table) => ({
  type: textType(longest(field), field, table),
  isText: true,
  check: undamaged(column(field.column)),
  fidelity: altering('a number is stored as its digits', shownNumber(field)),
});

const integer: Typed = (field) => ({
  type: integerType(rangeOf(field)),
  check: safeInteger(field),
  fidelity: altering('the type rounds a fraction, and reads text and other spellings', shownFraction(field)),
});

const decimal: Typed = (field) => ({
  type: `decimal(${field.facets.precision},${scaleOf(field)})`,
  rounds: true,
  check: null,
  fidelity: altering(
    'the type rounds a finer fraction, and reads other spellings',
    isNumeric(field) ? shownFraction(field) : `${shownDigits(field)}`,
  ),
});

const choice: Typed = (field, table) => {
  if (hasIntegerCodes(field)) return integer(field, table);
  const codes = codesOf(field).map(String);
  const most = Math.max(...codes.map((code) => [...code].length));
  if (field.facets.keptAs === 'enum') {
    const why = 'the type reads a position as a code, and takes other letter cases and outer space for the same';
    const type = `enum(${codes.map(quoteText).join(',')}) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin`;
    return { type, check: null, fidelity: altering(why, '1') };
  }
  return { type: textType(most, field, table), isText: true, check: null, fidelity: exact };
};

/** Months and days of zero are dates to the engine, unless a mode of the session says otherwise. */
function realDay(of: Sql): readonly Sql[] {
  return [binary(call('month', of), '>', { number: 0 }), binary(call('dayofmonth', of), '>', { number: 0 })];
}

function moment(type: string, ends: readonly [low: string, high: string], hasDay: boolean): Typed {
  return (field) => {
    const of = column(field.column);
    const range: Sql = { between: of, low: { text: ends[0] }, high: { text: ends[1] } };
    return {
      type: `${type}(${fractionOf(field)})`,
      check: { all: [range, ...(hasDay ? realDay(of) : [])] },
      fidelity: altering('the type reads other spellings, and cuts a finer fraction', shownMoment(field)),
    };
  };
}

/** The column types that people of MariaDB expect; what they alter is in the ledger. */
const natural: PerKind<Typed> = {
  text,
  email: text,
  url: text,
  uuid: text,
  ip: text,
  integer,
  decimal,
  choice,
  date: (field) => {
    const of = column(field.column);
    const range: Sql = { between: of, low: { text: firstDate }, high: { text: lastDate } };
    return {
      type: 'date',
      check: { all: [range, ...realDay(of)] },
      fidelity: altering('the type reads other spellings of a day', shownBare(field)),
    };
  },
  time: moment('time', ['00:00:00', '23:59:59.999999'], false),
  timestamp: moment('datetime', [`${firstDate} 00:00:00`, `${lastDate} 23:59:59.999999`], true),
  dateTime: moment('datetime', [`${firstDate} 00:00:00`, `${lastDate} 23:59:59.999999`], true),
  boolean: (field) => ({
    type: 'tinyint(1)',
    check: { member: column(field.column), among: [{ number: 0 }, { number: 1 }] },
    fidelity: altering('the driver sends true as 1, and the type rounds fractions', 1),
  }),
  list: (field) => ({
    type: 'json',
    check: binary(call('json_type', column(field.column)), '=', { text: 'ARRAY' }),
    fidelity: exact,
  }),
  record: () => ({ type: '', check: null, fidelity: { is: 'absent', why: 'its fields are columns of their own' } }),
  reference: text,
};

/** So many characters hold any canonical spelling, and one more shows that there were too many. */
const MOST_SPELLED = 430;

/** Text that has one spelling only: what is not that spelling is refused. */
function spelled(pattern: (field: KnownField) => Pattern, most: number, more: readonly Sql[] = []): Typed {
  return (field, table) => {
    const of = column(field.column);
    const lowest = more.map((least) => binary(of, '>=', least));
    const check: Sql = { all: [matchesPattern(of, pattern(field)), ...lowest] };
    return { type: textType(most, field, table), check, fidelity: exact };
  };
}

function digits(pattern: (field: KnownField) => Pattern): Typed {
  return (field, table) => {
    const { fidelity: _, ...made } = spelled(pattern, isLookedUp(field, table) ? 40 : MOST_SPELLED)(field, table);
    const why = 'a number is stored as its digits, and the same text alike; send one of 1e15 or more as text';
    return { ...made, fidelity: altering(why, shownOtherwise(field)) };
  };
}

/** Columns that alter nothing: text in its one spelling, where a type of the engine would read others. */
const strict: PerKind<Typed> = {
  ...natural,
  integer: (field, table) =>
    field.generated === 'identity' ? integer(field, table) : digits(() => wholePattern)(field, table),
  decimal: digits(() => digitsPattern),
  choice: (field, table) => (hasIntegerCodes(field) ? digits(() => wholePattern)(field, table) : choice(field, table)),
  date: spelled((field) => momentPattern(field, { day: true }), 10, [{ text: firstDate }]),
  time: spelled((field) => momentPattern(field, { time: true }), 15),
  timestamp: spelled((field) => momentPattern(field, { day: true, time: true, end: 'Z' }), 27, [{ text: firstDate }]),
  dateTime: spelled((field) => momentPattern(field, { day: true, time: true }), 26, [{ text: firstDate }]),
  boolean: (field, table) => ({
    type: textType(1, field, table),
    check: { member: column(field.column), among: [{ text: '0' }, { text: '1' }] },
    fidelity: altering('the driver sends true as 1', 1),
  }),
};

const types = { natural, strict };

export function columnType(field: KnownField, table: Table): ColumnType {
  const made = types[field.storage][field.kind](field, table);
  return checkable(field) ? made : { ...made, check: null };
}
