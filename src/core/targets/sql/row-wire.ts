import {
  addSecondsToDateTime,
  canonicalDateTime,
  canonicalInstant,
  canonicalTime,
  fractionOf,
  hasIntegerCodes,
  isNumeric,
  type KnownField,
  type PerKind,
  secondsOf,
  valueField,
} from '../../kinds/index.js';
import { exactOf, exactText, type Value } from '../../model/index.js';

/** A column's value as a driver hands it on. */
export type Column = string | number | bigint | boolean | null;

/** How the values of fields travel to an engine's columns and back. */
export interface RowWire {
  /** The mark of the n-th value (from 1) in a statement. */
  place(at: number): string;
  /** What stands in an INSERT of a row without values. */
  readonly emptyRow: string;
  /** What stands before VALUES where a counting key is given; '' where nothing must. */
  readonly givenKey: string;
  /** The key that a table counted last, in a statement behind the one that stored its row; names are spelled already. */
  lastKey(table: string, key: string): string;
  /** What a driver binds for a value; anything that is not of the field's kind goes as it is. */
  bind(field: KnownField, value: unknown): unknown;
  /** What is selected after `*`, under names that it replaces: values that the settings of a session spell otherwise. */
  respelled(fields: readonly KnownField[]): string;
  /** From what the engine gives back to the kind's own value; anything else stays what it is. */
  read(field: KnownField, column: Column): Value;
}

/** What a driver binds for a field's value in its column; undefined where the column has no form for what is no such value. */
export function toColumn(wire: RowWire, field: KnownField, value: unknown): unknown {
  const { columnForm } = field;
  return columnForm === null || value === null || value === undefined
    ? wire.bind(field, value)
    : columnForm.write(value);
}

/** The value of a field that its column holds. */
export function fromColumn(wire: RowWire, field: KnownField, column: Column): Value {
  const { columnForm } = field;
  return columnForm === null || column === null ? wire.read(field, column) : columnForm.read(String(column));
}

/** What is bound alike everywhere: lists as JSON, and a number as its plain digits where the column is of text. */
export function bound(field: KnownField, value: unknown): unknown {
  if (value === undefined || value === null) return null;
  if (field.item !== null) return JSON.stringify(value);
  const exact = field.storage === 'strict' && isNumeric(field) && typeof value === 'number' ? exactOf(value) : null;
  return exact === null ? value : exactText(exact);
}

/** A list's column back as a list. */
export function listFrom(text: unknown): Value {
  try {
    return typeof text === 'string' ? (JSON.parse(text) as Value) : ((text ?? []) as Value);
  } catch {
    return String(text);
  }
}

type Read = (field: KnownField, text: string) => Value;
const sameText: Read = (_field, text) => text;
/** A whole number, which a column of fractions writes with zeros behind the point. */
const whole: Read = (_field, text) => (/^-?[0-9]+(?:\.0+)?$/.test(text) ? Number(text) : text);
const spaced = (text: string) => text.replace(' ', 'T');

const numberOf: Read = (field, text) => {
  const exact = exactOf(text);
  if (exact === null) return text;
  return isNumeric(field) ? Number(exactText(exact)) : exactText(exact);
};

/** A moment with or without the offset from UTC that it is written in; zones of old had seconds in theirs. */
const MOMENT = /^(\S+T[0-9:.]+)(?:Z|([+-])([0-9]{2})(?::([0-9]{2}))?(?::([0-9]{2}))?)?$/;

/** A column's moment is in UTC where it does not say otherwise. */
function instantOf(text: string, fraction: number): string | null {
  const [, local, sign, hours = '0', minutes = '0', seconds = '0'] = MOMENT.exec(text) ?? [];
  if (local === undefined) return null;
  const offset = Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds);
  const moment = addSecondsToDateTime(local, sign === '-' ? offset : -offset);
  return moment === null ? null : canonicalInstant(`${moment}Z`, fraction, true);
}

const readers: PerKind<Read> = {
  text: sameText,
  email: sameText,
  url: sameText,
  uuid: sameText,
  ip: sameText,
  integer: whole,
  decimal: numberOf,
  choice: (field, text) => (hasIntegerCodes(field) ? whole(field, text) : text),
  date: sameText,
  time: (field, text) => {
    const seconds = secondsOf(field);
    return canonicalTime(seconds === 'none' ? text.replace(/:00$/, '') : text, seconds, true) ?? text;
  },
  timestamp: (field, text) => instantOf(spaced(text), fractionOf(field)) ?? text,
  dateTime: (field, text) => canonicalDateTime(spaced(text), fractionOf(field), true) ?? text,
  boolean: sameText,
  record: sameText,
  list: (_field, text) => listFrom(text),
  reference: sameText,
};

/** Reads the text in which an engine gives its values back; `boolean` is how it writes a truth. */
export function textReader(boolean: (text: string) => Value): RowWire['read'] {
  const own: PerKind<Read> = { ...readers, boolean: (_field, text) => boolean(text) };
  return (field, column) => {
    const inner = valueField(field);
    return column === null ? null : own[inner.kind](inner, String(column));
  };
}
