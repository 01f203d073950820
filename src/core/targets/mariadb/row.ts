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
const local = (text: string) => text.replace(' ', 'T').replace(/Z$/, '');

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
  timestamp: (field, text) => canonicalInstant(`${local(text)}Z`, fractionOf(field), true) ?? text,
  dateTime: (field, text) => canonicalDateTime(local(text), fractionOf(field), true) ?? text,
  boolean: (_field, text) => (text === '0' || text === '1' ? text === '1' : text),
  record: sameText,
  list: (_field, text) => listFrom(text),
  reference: sameText,
};

const asIs = (value: unknown) => value;
/** The engine refuses an instant's `Z`, and its columns hold UTC; only the canonical spelling is rewritten. */
const spaced = (value: unknown) =>
  typeof value === 'string' ? value.replace(/^(\d{4}-\d{2}-\d{2})T(\d{2}:\d{2}:\d{2}(?:\.\d+)?)Z$/, '$1 $2') : value;

const binders: { readonly [storage: string]: Partial<PerKind<(value: unknown) => unknown>> } = {
  natural: { timestamp: spaced },
  strict: { boolean: (value) => (typeof value === 'boolean' ? String(Number(value)) : value) },
};

/** The row wire of MariaDB: values go as their text, and come back as text. */
export const wire: RowWire = {
  emptyRow: '() VALUES ()',
  place: () => '?',
  bind(field, value) {
    const inner = valueField(field);
    return (binders[inner.storage]?.[inner.kind] ?? asIs)(bound(inner, value));
  },
  read(field, column) {
    const inner = valueField(field);
    return column === null ? null : readers[inner.kind](inner, String(column));
  },
};
