import {
  canonicalDateTime,
  canonicalInstant,
  canonicalTime,
  fractionOf,
  hasIntegerCodes,
  isNumeric,
  type KnownField,
  type PerKind,
  valueField,
} from '../../kinds/index.js';
import { exactOf, exactText, type Value } from '../../model/index.js';
import { bound, listFrom, type RowWire } from '../sql/index.js';

const sameText = (_field: KnownField, text: string): Value => text;

function numberOf(field: KnownField, text: string): Value {
  const exact = exactOf(text);
  if (exact === null) return text;
  return isNumeric(field) ? Number(exactText(exact)) : exactText(exact);
}

const whole = (_field: KnownField, text: string): Value => (/^-?[0-9]+$/.test(text) ? Number(text) : text);
const local = (text: string) => text.replace(' ', 'T');

/** From the engine's text of a value to the kind's own values. */
const readers: PerKind<(field: KnownField, text: string) => Value> = {
  text: sameText,
  email: sameText,
  url: sameText,
  uuid: sameText,
  ip: sameText,
  integer: whole,
  decimal: numberOf,
  choice: (field, text) => (hasIntegerCodes(field) ? whole(field, text) : text),
  date: sameText,
  time: (field, text) => canonicalTime(text, fractionOf(field), true) ?? text,
  timestamp: (field, text) =>
    canonicalInstant(`${local(text).replace(/\+00$|Z$/, '')}Z`, fractionOf(field), true) ?? text,
  dateTime: (field, text) => canonicalDateTime(local(text), fractionOf(field), true) ?? text,
  boolean: (_field, text) => (/^t(?:rue)?$|^f(?:alse)?$/.test(text) ? text.startsWith('t') : text),
  record: sameText,
  list: (_field, text) => listFrom(text),
  reference: sameText,
};

/** The row wire of PostgreSQL: the engine reads every value from its text, and gives it back as text. */
export const wire: RowWire = {
  emptyRow: 'DEFAULT VALUES',
  place: (at) => `$${at}`,
  bind: bound,
  read(field, column) {
    const inner = valueField(field);
    return column === null ? null : readers[inner.kind](inner, String(column));
  },
};
