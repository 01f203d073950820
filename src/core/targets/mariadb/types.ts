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
  secondsOf,
} from '../../kinds/index.js';
import type { Fidelity } from '../../model/index.js';
import {
  altering,
  binary,
  type ColumnType,
  call,
  column,
  longest,
  type Sql,
  safeInteger,
  shownBare,
  shownDigits,
  shownFraction,
  shownMoment,
  shownNumber,
  smallestType,
  strictColumns,
  type Table,
} from '../sql/index.js';
import { matchesPattern } from './patterns.js';
import { checkable } from './readings.js';
import { textType } from './text-types.js';

const exact: Fidelity = { is: 'exact' };

type Typed = (field: KnownField, table: Table) => ColumnType;

/** A safe integer needs bigint. */
const integerType = (field: KnownField) =>
  smallestType(
    field,
    [
      ['tinyint', 8],
      ['smallint', 16],
      ['mediumint', 24],
      ['int', 32],
    ],
    'bigint',
  );

/** U+0000 is a character to the engine; drivers send a lone surrogate as U+FFFD. */
const undamaged = (of: Sql): Sql => binary(of, 'NOT REGEXP', { text: '[\\x{0}\\x{fffd}]' });

const text: Typed = (field, table) => ({
  type: textType(longest(field), field, table),
  isText: true,
  check: undamaged(column(field.column)),
  fidelity: altering('a number is stored as its digits', shownNumber(field)),
});

const integer: Typed = (field) => ({
  type: integerType(field),
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
  // The engine's own enum reads a position as a code, before any CHECK sees the value: the column is of text.
  const most = Math.max(...codesOf(field).map((code) => [...String(code)].length));
  return { type: textType(most, field, table), isText: true, check: null, fidelity: exact };
};

/** Months and days of zero are dates to the engine, and in some sessions 30 February is. */
function realDay(of: Sql): readonly Sql[] {
  const last = call('dayofmonth', call('last_day', of));
  return [
    binary(call('month', of), '>', { number: 0 }),
    { between: call('dayofmonth', of), low: { number: 1 }, high: last },
  ];
}

function moment(type: string, ends: readonly [low: string, high: string], hasDay: boolean): Typed {
  return (field) => {
    const of = column(field.column);
    const range: Sql = { between: of, low: { text: ends[0] }, high: { text: ends[1] } };
    const minutes = binary(call('second', of), '=', { number: 0 });
    return {
      type: `${type}(${fractionOf(field)})`,
      check: { all: [range, ...(hasDay ? realDay(of) : []), ...(secondsOf(field) === 'none' ? [minutes] : [])] },
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

/** Columns that alter nothing. */
const strict: PerKind<Typed> = {
  ...natural,
  ...strictColumns(natural, {
    textType,
    matches: matchesPattern,
    digitsAlike: 'a number is stored as its digits, and the same text alike; send one of 1e15 or more as text',
  }),
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
