import {
  firstDate,
  fractionOf,
  hasIntegerCodes,
  isNumeric,
  type KnownField,
  lastDate,
  type PerKind,
  valueField,
} from '../../kinds/index.js';
import type { Fidelity } from '../../model/index.js';
import {
  altering,
  binary,
  type ColumnType,
  call,
  column,
  rangeOf,
  type Sql,
  safeInteger,
  shownDay,
  shownDigits,
  shownNumber,
} from '../sql/index.js';

const exact: Fidelity = { is: 'exact' };
const textType = 'text COLLATE "C"';

/** The smallest integer type that holds the range; a safe integer needs bigint. */
function integerType({ least, most }: ReturnType<typeof rangeOf>): string {
  if (least >= -32768 && most <= 32767) return 'smallint';
  return least >= -2147483648 && most <= 2147483647 ? 'integer' : 'bigint';
}

function text(field: KnownField): ColumnType {
  return {
    type: textType,
    isText: true,
    // Drivers send a lone surrogate as U+FFFD; the engine itself refuses U+0000.
    check: binary(call('strpos', column(field.column), { text: '\ufffd' }), '=', { number: 0 }),
    fidelity: altering('the driver sends a number as its digits, and they are stored as text', shownNumber(field)),
  };
}

/** Types of moments read other spellings, and round a fraction that is finer than they hold. */
function moment(type: string, ends: readonly [low: string, high: string]) {
  return (field: KnownField): ColumnType => {
    const [base = '', zone = ''] = type.split(' with', 2);
    return {
      type: `${base}(${fractionOf(field)})${zone === '' ? '' : ` with${zone}`}`,
      check: { between: column(field.column), low: { text: ends[0] }, high: { text: ends[1] } },
      fidelity: altering('the type reads other spellings, and rounds a finer fraction', undefined),
    };
  };
}

const decimal = (field: KnownField): ColumnType => ({
  type: 'numeric',
  check: finite(column(field.column)),
  fidelity: altering(
    'the type reads other spellings of a number, and text as well as numbers',
    isNumeric(field) ? shownDigits(field) : undefined,
  ),
});

/** NaN and the infinities are numbers to this type; NaN is greater than all. */
function finite(of: Sql): Sql {
  return { all: [binary(of, '>', { text: '-Infinity' }), binary(of, '<', { text: 'Infinity' })] };
}

const integer = (field: KnownField): ColumnType => ({
  type: integerType(rangeOf(field)),
  check: safeInteger(field),
  fidelity: altering('the type reads other spellings of a number and stores the plain one', shownDigits(field)),
});

/** The column types that people of PostgreSQL expect; where one reads more spellings than the rule, the ledger says so. */
const types: PerKind<(field: KnownField) => ColumnType> = {
  text,
  email: text,
  url: text,
  uuid: text,
  ip: text,
  integer,
  decimal,
  choice: (field) =>
    hasIntegerCodes(field) ? integer(field) : { type: textType, isText: true, check: null, fidelity: exact },
  date: (field) => ({
    type: 'date',
    check: { between: column(field.column), low: { text: firstDate }, high: { text: lastDate } },
    fidelity: altering('the type reads other spellings of a day, and words such as today', shownDay(field)),
  }),
  time: moment('time', ['00:00:00', '23:59:59.999999']),
  timestamp: moment('timestamp with time zone', [`${firstDate}T00:00:00Z`, `${lastDate}T23:59:59.999999Z`]),
  dateTime: moment('timestamp', [`${firstDate}T00:00:00`, `${lastDate}T23:59:59.999999`]),
  boolean: () => ({
    type: 'boolean',
    check: null,
    fidelity: altering('the type reads yes, on, t and 1 as true', 'yes'),
  }),
  list: (field) => ({
    type: 'jsonb',
    check: binary(call('jsonb_typeof', column(field.column)), '=', { text: 'array' }),
    fidelity: exact,
  }),
  record: () => ({ type: '', check: null, fidelity: { is: 'absent', why: 'its fields are columns of their own' } }),
  reference: (field) => columnType(valueField(field)),
};

export function columnType(field: KnownField): ColumnType {
  return types[field.kind](field);
}

/** What fills a column that nobody sends; null where the server does. */
export function filling({ generated, path }: KnownField): string | null {
  const fillings: { readonly [by: string]: string } = {
    identity: 'GENERATED ALWAYS AS IDENTITY',
    uuid: 'DEFAULT gen_random_uuid()::text',
    created: 'DEFAULT now()',
    updated: 'DEFAULT now()',
  };
  return path === '' || generated === null ? null : (fillings[generated] ?? null);
}

export function defaultOf(_field: KnownField, spelled: string): string {
  return `DEFAULT ${spelled}`;
}
