import {
  codesOf,
  firstDate,
  fractionOf,
  hasIntegerCodes,
  type KnownField,
  lastDate,
  type PerKind,
  secondsOf,
} from '../../kinds/index.js';
import type { Fidelity, Pattern } from '../../model/index.js';
import {
  altering,
  binary,
  type ColumnType,
  call,
  column,
  cutName,
  digitsPattern,
  momentPattern,
  type Sql,
  safeInteger,
  shownBare,
  shownDigits,
  shownMoment,
  shownNumber,
  smallestType,
  strictColumns,
  type Table,
  wholePattern,
} from '../sql/index.js';
import { quoteText, spelling } from './names.js';
import { matchesPattern } from './patterns.js';

const exact: Fidelity = { is: 'exact' };
const textType = 'text COLLATE "C"';

/** A safe integer needs bigint. */
const integerType = (field: KnownField) =>
  smallestType(
    field,
    [
      ['smallint', 16],
      ['integer', 32],
    ],
    'bigint',
  );

type Typed = (field: KnownField, table: Table) => ColumnType;

const text: Typed = (field) => ({
  type: textType,
  isText: true,
  // Drivers send a lone surrogate as U+FFFD; the engine itself refuses U+0000.
  check: binary(call('strpos', column(field.column), { text: '\ufffd' }), '=', { number: 0 }),
  fidelity: altering('the driver sends a number as its digits, and they are stored as text', shownNumber(field)),
});

/** Types of moments read other spellings, and round a fraction that is finer than they hold. */
function moment(type: string, ends: readonly [low: string, high: string]): Typed {
  return (field) => {
    const [base = '', zone = ''] = type.split(' with', 2);
    const of = column(field.column);
    const range: Sql = { between: of, low: { text: ends[0] }, high: { text: ends[1] } };
    const minutes = binary(call('date_part', { text: 'second' }, of), '=', { number: 0 });
    return {
      type: `${base}(${fractionOf(field)})${zone === '' ? '' : ` with${zone}`}`,
      check: secondsOf(field) === 'none' ? { all: [range, minutes] } : range,
      fidelity: altering('the type reads other spellings, and rounds a finer fraction', shownMoment(field)),
    };
  };
}

const decimal: Typed = (field) => ({
  type: 'numeric',
  check: finite(column(field.column)),
  fidelity: altering('the type reads other spellings of a number, and text as well as numbers', shownDigits(field)),
});

/** NaN and the infinities are numbers to this type; NaN is greater than all. */
function finite(of: Sql): Sql {
  return { all: [binary(of, '>', { text: '-Infinity' }), binary(of, '<', { text: 'Infinity' })] };
}

const integer: Typed = (field) => ({
  type: integerType(field),
  check: safeInteger(field),
  fidelity: altering('the type reads other spellings of a number and stores the plain one', shownDigits(field)),
});

const choice: Typed = (field, table) => {
  if (hasIntegerCodes(field)) return integer(field, table);
  if (field.facets.keptAs !== 'enum') return { type: textType, isText: true, check: null, fidelity: exact };
  const name = spelling.name(cutName(`${table.name}_${field.column}`));
  const codes = codesOf(field).map((code) => quoteText(String(code)));
  const found = `to_regtype(${quoteText(name)})`;
  const labels = `(SELECT array_agg(enumlabel::text ORDER BY enumsortorder) FROM pg_enum WHERE enumtypid = ${found})`;
  const before = `DO $$ BEGIN
  IF ${found} IS NULL THEN
    CREATE TYPE ${name} AS ENUM (${codes.join(', ')});
  ELSIF ${labels} IS DISTINCT FROM ARRAY[${codes.join(', ')}] THEN
    RAISE EXCEPTION 'the type % is there already and has other labels', ${quoteText(name)};
  END IF;
END $$;`;
  return { type: name, check: null, fidelity: exact, before };
};

/** The column types that people of PostgreSQL expect; where one reads more spellings than the rule, the ledger says so. */
const natural: PerKind<Typed> = {
  text,
  email: text,
  url: text,
  uuid: (field) => ({
    type: 'uuid',
    check: null,
    fidelity: altering('the type reads other spellings of a UUID', shownBare(field).toUpperCase()),
  }),
  ip: text,
  integer,
  decimal,
  choice,
  date: (field) => ({
    type: 'date',
    check: { between: column(field.column), low: { text: firstDate }, high: { text: lastDate } },
    fidelity: altering('the type reads other spellings of a day, and words such as today', shownBare(field)),
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
  reference: text,
};

/** Columns that alter nothing. */
const strict: PerKind<Typed> = {
  ...natural,
  ...strictColumns(natural, {
    textType: () => textType,
    matches: matchesPattern,
    digitsAlike: "the driver sends a number's digits and the same text alike",
  }),
  uuid: text,
  boolean: (field) => ({
    type: textType,
    check: { member: column(field.column), among: [{ text: 'true' }, { text: 'false' }] },
    fidelity: altering('the driver sends a truth and the same word alike', 'true'),
  }),
};

const types = { natural, strict };

export function columnType(field: KnownField, table: Table): ColumnType {
  return types[field.storage][field.kind](field, table);
}

/** A number or a day in the column's text, for expressions; NULL where it is none, as the CHECK of its type says it. */
function readAs(type: string, field: KnownField, pattern: Pattern): Sql {
  const of = column(field.column);
  return { cases: [[matchesPattern(of, pattern), { cast: of, to: type }]] };
}

const asIs = (field: KnownField): Sql => column(field.column);

const strictReadings: PerKind<(field: KnownField) => Sql> = {
  text: asIs,
  email: asIs,
  url: asIs,
  uuid: asIs,
  ip: asIs,
  integer: (field) => (field.generated === 'identity' ? asIs(field) : readAs('numeric', field, wholePattern)),
  decimal: (field) => readAs('numeric', field, digitsPattern),
  choice: (field) => (hasIntegerCodes(field) ? readAs('numeric', field, wholePattern) : enumText(field)),
  date: (field) => readAs('date', field, momentPattern(field, { day: true })),
  time: (field) => readAs('time', field, momentPattern(field, { time: true })),
  timestamp: (field) =>
    readAs('timestamp with time zone', field, momentPattern(field, { day: true, time: true, end: 'Z' })),
  dateTime: (field) => readAs('timestamp', field, momentPattern(field, { day: true, time: true })),
  boolean: (field) => binary(column(field.column), '=', { text: 'true' }),
  list: asIs,
  record: asIs,
  reference: asIs,
};

function enumText(field: KnownField): Sql {
  const isEnum = field.facets.keptAs === 'enum' && !hasIntegerCodes(field);
  return isEnum ? { cast: column(field.column), to: 'text' } : asIs(field);
}

const naturalReadings: PerKind<(field: KnownField) => Sql> = {
  ...strictReadings,
  uuid: (field) => ({ cast: column(field.column), to: 'text' }),
  integer: asIs,
  decimal: asIs,
  choice: enumText,
  date: asIs,
  time: asIs,
  timestamp: asIs,
  dateTime: asIs,
  boolean: asIs,
};

const readings = { natural: naturalReadings, strict: strictReadings };

export function reading(field: KnownField): Sql {
  return readings[field.storage][field.kind](field);
}

/** What fills a column that nobody sends; null where the server does. */
export function filling({ generated, storage, facets }: KnownField): string | null {
  const fraction = typeof facets.fraction === 'number' ? facets.fraction : 0;
  const now = storage === 'strict' ? `DEFAULT ${nowText(fraction)}` : 'DEFAULT now()';
  const fillings: { readonly [by: string]: string } = {
    identity: 'GENERATED ALWAYS AS IDENTITY',
    uuid: `DEFAULT gen_random_uuid()${storage === 'strict' ? '::text' : ''}`,
    created: now,
    updated: now,
  };
  return generated === null ? null : (fillings[generated] ?? null);
}

/** The moment as canonical text in UTC, cut to its fraction. */
function nowText(fraction: number): string {
  const length = fraction === 0 ? 19 : 20 + fraction;
  return `(left(to_char(now() AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US'), ${length}) || 'Z')`;
}

/** What a trigger sets the time of the last change to. */
export function nowOf({ storage, facets }: KnownField): string {
  return storage === 'strict' ? nowText(typeof facets.fraction === 'number' ? facets.fraction : 0) : 'now()';
}

/** In a column of text a number or a truth stands as its text. */
export function defaultOf({ storage, default: value }: KnownField, spelled: string): string {
  return `DEFAULT ${storage === 'strict' && typeof value !== 'string' && value !== null ? quoteText(String(value)) : spelled}`;
}
