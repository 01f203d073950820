import {
  firstDate,
  hasIntegerCodes,
  type KnownField,
  type PerKind,
  type Seconds,
  secondsOf,
} from '../../kinds/index.js';
import type { Fidelity, Pattern } from '../../model/index.js';
import type { ColumnType } from './dialect.js';
import type { Table } from './layout.js';
import { altering, shownOtherwise } from './shown.js';
import { binary, column, type Sql } from './tree.js';

/** The canonical spelling of a whole number. */
export const wholePattern: Pattern = { source: '0|-?[1-9][0-9]*', flags: 'u' };

/** The canonical spelling of a decimal: no zero that ends its fraction, and zero without a sign. */
export const digitsPattern: Pattern = {
  source: '0|-?(?:[1-9][0-9]*(?:\\.[0-9]*[1-9])?|0\\.[0-9]*[1-9])',
  flags: 'u',
};

const DAY =
  '(?:[0-9]{4}-(?:(?:0[13578]|1[02])-(?:0[1-9]|[12][0-9]|3[01])|(?:0[469]|11)-(?:0[1-9]|[12][0-9]|30)|02-(?:0[1-9]|1[0-9]|2[0-8]))|(?:[0-9]{2}(?:0[48]|[2468][048]|[13579][26])|(?:[02468][048]|[13579][26])00)-02-29)';

/** The canonical text of a day, a time or both (RFC 3339's forms); real days only, year 0000 still among them. */
export function momentPattern(field: KnownField, has: { day?: true; time?: true; end?: string }): Pattern {
  const time = timePattern(secondsOf(field));
  const parts = [...(has.day ? [DAY] : []), ...(has.time ? [`${time}${has.end ?? ''}`] : [])];
  return { source: parts.join('T'), flags: 'u' };
}

function timePattern(seconds: Seconds): string {
  const minutes = '(?:[01][0-9]|2[0-3]):[0-5][0-9]';
  if (seconds === 'none') return minutes;
  return `${minutes}:[0-5][0-9]${seconds === 0 ? '' : `\\.[0-9]{${seconds}}`}`;
}

type Typed = (field: KnownField, table: Table) => ColumnType;

/** What an engine needs for columns of text that has one spelling only. */
export interface StrictEngine {
  /** A type of text with at most so many characters. */
  textType(most: number, field: KnownField, table: Table): string;
  matches(of: Sql, pattern: Pattern): Sql;
  /** Why a number and its digits are alike. */
  readonly digitsAlike: string;
}

/** The longest canonical spelling of a number that any layer reads, and room to see that there was more. */
const MOST_DIGITS = 430;

/** Columns that alter nothing: text in its one spelling, where a type of the engine would read others. */
export function strictColumns(
  natural: PerKind<Typed>,
  { textType, matches, digitsAlike }: StrictEngine,
): Pick<PerKind<Typed>, 'integer' | 'decimal' | 'choice' | 'date' | 'time' | 'timestamp' | 'dateTime'> {
  const spelled =
    (most: number, pattern: (field: KnownField) => Pattern, fidelity: (field: KnownField) => Fidelity): Typed =>
    (field, table) => {
      const of = column(field.column);
      const { source } = pattern(field);
      // The pattern of a day has the year 0000, which no value has.
      const since = source.startsWith(DAY) ? [binary(of, '>=', { text: firstDate })] : [];
      const check: Sql = { all: [matches(of, pattern(field)), ...since] };
      return { type: textType(most, field, table), check, fidelity: fidelity(field) };
    };
  const digits = (pattern: Pattern) =>
    spelled(
      MOST_DIGITS,
      () => pattern,
      (field) => altering(digitsAlike, shownOtherwise(field)),
    );
  const moment = (most: number, has: Parameters<typeof momentPattern>[1]) =>
    spelled(
      most,
      (field) => momentPattern(field, has),
      () => ({ is: 'exact' }),
    );
  const whole = digits(wholePattern);
  return {
    integer: (field, table) => (field.generated === 'identity' ? natural.integer : whole)(field, table),
    decimal: digits(digitsPattern),
    choice: (field, table) => (hasIntegerCodes(field) ? whole : natural.choice)(field, table),
    date: moment(10, { day: true }),
    time: moment(15, { time: true }),
    timestamp: moment(27, { day: true, time: true, end: 'Z' }),
    dateTime: moment(26, { day: true, time: true }),
  };
}
