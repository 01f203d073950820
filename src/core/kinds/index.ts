import type { Domain, Field, Value, Wire } from '../model/index.js';
import { boolean } from './boolean.js';
import { choice } from './choice.js';
import { date } from './date.js';
import { dateTime } from './dateTime.js';
import { decimal } from './decimal.js';
import { email } from './email.js';
import { integer } from './integer.js';
import { ip } from './ip.js';
import type { Decoded, Edge, FacetRule, Kind } from './kind.js';
import { list } from './list.js';
import { record } from './record.js';
import { reference } from './reference.js';
import { text } from './text.js';
import { time } from './time.js';
import { timestamp } from './timestamp.js';
import { url } from './url.js';
import { uuid } from './uuid.js';

/** The table that everything is made from: a new kind is a file beside this one, and a name here. */
export const kinds = {
  text,
  email,
  url,
  uuid,
  ip,
  integer,
  decimal,
  boolean,
  date,
  time,
  timestamp,
  dateTime,
  choice,
  record,
  list,
  reference,
} satisfies { readonly [name: string]: Kind };

export type KindName = keyof typeof kinds;
export type KnownField = Field<KindName>;
/** One entry a kind: `satisfies PerKind<...>` makes a missing one a compile error. */
export type PerKind<T> = { readonly [K in KindName]: T };

/** The kind of a field. Throws on a name that is not in the table: that is a fault of ours. */
export function kindOf(field: Field): Kind {
  const kind = (kinds as { readonly [name: string]: Kind })[field.kind];
  if (kind === undefined) throw new Error(`no kind called ${field.kind}`);
  return kind;
}

/** The field whose kind says how the value is written and stored: a reference's key, otherwise the field itself. */
export function valueField<K extends string>(field: Field<K>): Field<K> {
  return field.key === null ? field : valueField(field.key);
}

/** True where a field's values are text with a canonical form: the kinds that have a `canonical` rule. */
export function isTextual(field: Field): boolean {
  return kindOf(valueField(field)).blankIsAbsent;
}

/** True where a field's values are text whose outer white space is taken off. */
export function isTrimmed(field: Field): boolean {
  return isTextual(field) && valueField(field).facets.trim !== false;
}

/** True for a field with a value of its own: neither a record nor a list. */
export function isScalar(field: Field): boolean {
  return field.fields === null && field.item === null;
}

export function decodeValue(field: Field, input: unknown, wire: Wire): Decoded {
  return kindOf(field).decode(field, input, wire, kindOf);
}

export function encodeValue(field: Field, value: Value, wire: Wire): Value {
  return value === null ? null : kindOf(field).encode(field, value, wire, kindOf);
}

export function canonicalValue(field: Field, value: Value): Value {
  return value === null ? null : kindOf(field).canonical(field, value, kindOf);
}

export function facetRules(field: Field): readonly FacetRule[] {
  return kindOf(field).rules(field, kindOf);
}

export function edgesOf(field: Field): readonly Edge[] {
  return kindOf(field).edges(field, kindOf);
}

/** All values of a field where they are few (a choice, a boolean); null where they are not. */
export function valuesOf(field: Field): readonly Exclude<Value, null>[] | null {
  return kindOf(field).values(field, kindOf);
}

export function sampleOf(field: Field, seed: number): Exclude<Value, null> {
  return kindOf(field).sample(field, seed, kindOf);
}

/** The domain that a field's values are compared in: a reference's values are compared as its key's. */
export function valueDomain(field: Field): Domain {
  return kindOf(valueField(field)).domain;
}

export {
  addDays,
  addSeconds,
  addSecondsToDateTime,
  canonicalDateTime,
  canonicalInstant,
  canonicalTime,
  daysBetween,
  daysInMonth,
  isRealDate,
  type Seconds,
} from './calendar.js';
export { type Code, choicesOf, codesOf, hasIntegerCodes } from './choice.js';
export { firstDate, lastDate } from './date.js';
export { isNumeric, scaleOf } from './decimal.js';
export type { Decoded, Edge, FacetRule, FacetType, Kind } from './kind.js';
export { itemKeyOf } from './list.js';
export { fractionOf, secondsOf, stepSeconds } from './moments.js';
export { targetOf } from './reference.js';
export { charsetNames, oneLine } from './text-form.js';
export { steppedTime } from './time.js';
export { whiteSpace } from './white-space.js';
