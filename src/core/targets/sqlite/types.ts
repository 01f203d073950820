import {
  firstDate,
  fractionOf,
  hasIntegerCodes,
  isNumeric,
  type KnownField,
  type PerKind,
  secondsOf,
} from '../../kinds/index.js';
import type { Fidelity } from '../../model/index.js';
import {
  altering,
  binary,
  type ColumnType,
  call,
  column,
  type Sql,
  safeInteger,
  shownDigits,
  shownNumber,
} from '../sql/index.js';

const exact: Fidelity = { is: 'exact' };
const digit = '[0-9]';

/** One U+0000 disarms length(), GLOB and triggers; only instr() sees past it. Lone surrogates are read as U+FFFD. */
function undamaged(of: Sql): Sql {
  const anywhere: Sql = { joined: [{ text: '*' }, call('char', { number: 0xfffd }), { text: '*' }] };
  return { all: [withoutNull(of), binary(of, 'NOT GLOB', anywhere)] };
}

function withoutNull(of: Sql): Sql {
  return binary(call('instr', of, call('char', { number: 0 })), '=', { number: 0 });
}

function text(field: KnownField): ColumnType {
  return {
    type: 'TEXT',
    isText: true,
    check: undamaged(column(field.column)),
    fidelity: altering('a number is stored as its digits', shownNumber(field)),
  };
}

const integer = (field: KnownField): ColumnType => ({
  // As a primary key, INTEGER is another name of the row number, and counts up where NULL is sent; INT is not.
  type: field.generated === 'identity' ? 'INTEGER' : 'INT',
  check: safeInteger(field),
  fidelity: altering('text that reads as a whole number is stored as that number', shownDigits(field)),
});

/** date() gives the very text back for real days only: it rolls 30 February over. */
function realDay(day: Sql): readonly Sql[] {
  return [binary(call('date', day, { text: '+0 days' }), 'IS', day), binary(day, '>=', { text: firstDate })];
}

const dayForm = `${digit.repeat(4)}-${digit.repeat(2)}-${digit.repeat(2)}`;

/** A moment's text by its form, its day, and the greatest hour, minute and second. */
function moment(hasDay: boolean, end: string) {
  return (field: KnownField): ColumnType => {
    const of = column(field.column);
    const seconds = secondsOf(field);
    const fraction = seconds === 'none' || seconds === 0 ? '' : `.${digit.repeat(seconds)}`;
    const time = `[0-2]${digit}:[0-5]${digit}${seconds === 'none' ? '' : `:[0-5]${digit}${fraction}`}`;
    const hour = call('substr', of, { number: hasDay ? 12 : 1 }, { number: 2 });
    const isDay = hasDay ? realDay(call('substr', of, { number: 1 }, { number: 10 })) : [];
    const form = `${hasDay ? `${dayForm}T` : ''}${time}${end}`;
    const parts = [binary(of, 'GLOB', { text: form }), binary(hour, '<', { text: '24' }), ...isDay, withoutNull(of)];
    return { type: 'TEXT', check: { all: parts }, fidelity: exact };
  };
}

/** Column types of STRICT tables. */
const natural: PerKind<(field: KnownField) => ColumnType> = {
  text,
  email: text,
  url: text,
  uuid: text,
  ip: text,
  integer,
  decimal: (field) =>
    isNumeric(field)
      ? {
          type: 'REAL',
          check: null,
          fidelity: altering('text that reads as a number is stored as that number', shownDigits(field)),
        }
      : { ...text(field), check: canonicalDigits(column(field.column)) },
  choice: (field) =>
    hasIntegerCodes(field) ? integer(field) : { type: 'TEXT', isText: true, check: null, fidelity: exact },
  date: (field) => {
    const of = column(field.column);
    return {
      type: 'TEXT',
      check: { all: [binary(of, 'GLOB', { text: dayForm }), ...realDay(of), withoutNull(of)] },
      fidelity: exact,
    };
  },
  time: moment(false, ''),
  timestamp: moment(true, 'Z'),
  dateTime: moment(true, ''),
  boolean: (field) => ({
    type: 'INTEGER',
    check: { member: column(field.column), among: [{ number: 0 }, { number: 1 }] },
    fidelity: altering('the text 1 is stored as the number, which is true', '1'),
  }),
  list: (field) => ({
    type: 'TEXT',
    check: binary(call('json_type', column(field.column)), '=', { text: 'array' }),
    fidelity: exact,
  }),
  record: () => ({ type: '', check: null, fidelity: { is: 'absent', why: 'its fields are columns of their own' } }),
  reference: text,
};

/** The type of a value; NULL where there is none, so that a CHECK of it passes. */
function typeOf(of: Sql): Sql {
  return call('nullif', call('typeof', of), { text: 'null' });
}

/** A column without any affinity, which stores what it is given, and its CHECK asks for the type. */
function asSent(type: string, make: (field: KnownField) => ColumnType): (field: KnownField) => ColumnType {
  return (field) => {
    const { check, isText } = make(field);
    const typed = binary(typeOf(column(field.column)), '=', { text: type });
    return {
      type: 'ANY',
      check: { all: [typed, ...(check === null ? [] : [check])] },
      fidelity: exact,
      ...(isText === true ? { isText } : {}),
    };
  };
}

/** Columns that alter nothing. */
const strict: PerKind<(field: KnownField) => ColumnType> = {
  ...natural,
  text: asSent('text', text),
  email: asSent('text', text),
  url: asSent('text', text),
  uuid: asSent('text', text),
  ip: asSent('text', text),
  integer: (field) => (field.generated === 'identity' ? integer(field) : wholeNumber(field)),
  decimal: (field) => (isNumeric(field) ? number(field) : asSent('text', natural.decimal)(field)),
  choice: (field) => (hasIntegerCodes(field) ? wholeNumber(field) : asSent('text', natural.choice)(field)),
  date: asSent('text', natural.date),
  time: asSent('text', natural.time),
  timestamp: asSent('text', natural.timestamp),
  dateTime: asSent('text', natural.dateTime),
  boolean: asSent('integer', natural.boolean),
};

/** A driver binds a whole number as an integer, any other as a float: both are numbers, and neither is text. */
function number(field: KnownField): ColumnType {
  return {
    type: 'ANY',
    check: { member: typeOf(column(field.column)), among: [{ text: 'integer' }, { text: 'real' }] },
    fidelity: exact,
  };
}

/** Some drivers bind every number as a float. */
function wholeNumber(field: KnownField): ColumnType {
  const of = column(field.column);
  const range = safeInteger(field);
  const { check, ...made } = number(field);
  const whole = binary(of, '=', { cast: of, to: 'INTEGER' });
  return { ...made, check: { all: [...(check === null ? [] : [check]), whole, ...(range === null ? [] : [range])] } };
}

const types = { natural, strict };

/** Of texts of digits, a minus and a point: a second point or minus, a zero too much, nothing before or behind the point. */
const NOT_CANONICAL = ['*.*.*', '?*-*', '0[0-9]*', '-0[0-9]*', '*.*0', '*.', '.*', '-.*', '-0'];

/** Decimal text in its one spelling. */
function canonicalDigits(of: Sql): Sql {
  const digits = call('replace', call('ltrim', of, { text: '-' }), { text: '.' }, { text: '' });
  return {
    all: [
      binary(digits, 'NOT GLOB', { text: '*[^0-9]*' }),
      binary(digits, '<>', { text: '' }),
      ...NOT_CANONICAL.map((text) => binary(of, 'NOT GLOB', { text })),
      withoutNull(of),
    ],
  };
}

export function columnType(field: KnownField): ColumnType {
  return types[field.storage][field.kind](field);
}

/** Decimal text of many digits has no order here, and no arithmetic. */
export function reading(field: KnownField): Sql | null {
  return field.facets.precision !== undefined && !isNumeric(field) ? null : column(field.column);
}

/** The moment as canonical text in UTC. */
export function nowOf(field: KnownField): string {
  const fraction = fractionOf(field);
  const seconds =
    fraction === 0 ? "strftime('%S', 'now')" : `substr(strftime('%f', 'now') || '000', 1, ${3 + fraction})`;
  return `(strftime('%Y-%m-%dT%H:%M:', 'now') || ${seconds} || 'Z')`;
}

/** What fills a column that nobody sends; null where the server does, or the engine counts by itself. */
export function filling(field: KnownField): string | null {
  const { generated } = field;
  const hex = (bytes: number) => `lower(hex(randomblob(${bytes})))`;
  const fillings: { readonly [by: string]: string } = {
    uuid: `DEFAULT (${hex(4)} || '-' || ${hex(2)} || '-4' || substr(${hex(2)}, 2) || '-8' || substr(${hex(2)}, 2) || '-' || ${hex(6)})`,
    created: `DEFAULT ${nowOf(field)}`,
    updated: `DEFAULT ${nowOf(field)}`,
  };
  return generated === null ? null : (fillings[generated] ?? null);
}

export function defaultOf(_field: KnownField, spelled: string): string {
  return `DEFAULT ${spelled}`;
}
