import type { Schema } from '../../core/declare/index.js';
import { decodeValue, encodeValue, type KnownField, valueDomain, valueField } from '../../core/kinds/index.js';
import type { Case, Tolerance } from '../../core/model/index.js';
import { verdictOn } from '../run.js';

type Fields = { readonly [name: string]: KnownField };
type Given = { readonly [key: string]: unknown };
/** What a layer makes of one value before it checks it. */
type Reads = (field: KnownField, value: unknown) => unknown;

/** A character of no meaning, of the same length and the same classes but one: it takes the place of U+FFFD. */
const STAND_IN = '\u{e000}';

/** The case as a layer with such tolerances reads it, with the verdict that follows. */
export function asRead(one: Case, lenient: ReadonlySet<Tolerance>, model: Schema[number]): Case {
  if (one.does === 'delete') return one;
  let input = one.input;
  if (one.wire === 'json') {
    for (const [tolerance, reads] of jsonReadings)
      if (lenient.has(tolerance)) input = walked(input, model.fields, reads);
  }
  if (lenient.has('replacementCharacter')) input = withStandIn(one.wire === 'row' ? wellFormed(input) : input);
  if (lenient.has('unknownKeys')) input = withoutUndeclared(input, one);
  return input === one.input ? one : { ...one, input, expected: verdictOn({ ...one, input }, model) };
}

/**
 * A record in which U+FFFD is another character. Several in a row are one: half a surrogate pair has three bytes, and an
 * engine may show each of them so.
 */
export function withStandIn<T>(value: T): T {
  const text = JSON.stringify(value);
  return text === undefined || !text.includes('\ufffd') ? value : (JSON.parse(text.replace(/\ufffd+/g, STAND_IN)) as T);
}

/** Texts as an encoding of UTF-8 writes them: half a surrogate pair becomes U+FFFD. */
function wellFormed(value: unknown): unknown {
  if (typeof value === 'string') return value.replace(/\p{Surrogate}/gu, '\ufffd');
  if (Array.isArray(value)) return value.map(wellFormed);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, wellFormed(inner)]));
}

const jsonReadings: readonly (readonly [Tolerance, Reads])[] = [
  ['emptyTextAsAbsent', (_field, value) => (value === '' ? null : value)],
  ['numbersAsText', numberIn],
  [
    'booleansAsText',
    (field, value) => (valueDomain(field) === 'boolean' && isBoolean(value) ? value === 'true' : value),
  ],
];

function isBoolean(value: unknown): boolean {
  return value === 'true' || value === 'false';
}

/** The number as JSON carries it, where a text spells one as a form does. */
function numberIn(field: KnownField, value: unknown): unknown {
  const inner = valueField(field);
  if (typeof value !== 'string' || valueDomain(field) !== 'number') return value;
  const decoded = decodeValue(inner, value, 'form');
  return 'value' in decoded && decoded.value !== null ? encodeValue(inner, decoded.value, 'json') : value;
}

function walked(record: unknown, fields: Fields, reads: Reads): unknown {
  if (typeof record !== 'object' || record === null || Array.isArray(record)) return record;
  return changed(record as Given, (key, value) => {
    const field = Object.hasOwn(fields, key) ? fields[key] : undefined;
    return field === undefined ? value : walkedValue(field, value, reads);
  });
}

function walkedValue(field: KnownField, value: unknown, reads: Reads): unknown {
  if (field.fields !== null) return walked(value, field.fields, reads);
  const { item } = field;
  if (item === null) return reads(field, value);
  if (!Array.isArray(value)) return value;
  const entries = value.map((entry) => walkedValue(item, entry, reads));
  return entries.every((entry, at) => entry === value[at]) ? value : entries;
}

/** The same object where nothing changes. */
function changed(record: Given, change: (key: string, value: unknown) => unknown): Given {
  const entries = Object.entries(record).map(([key, value]) => [key, change(key, value)] as const);
  return entries.every(([key, value]) => value === record[key]) ? record : Object.fromEntries(entries);
}

/** Without the keys that the verdict refuses as not declared. */
function withoutUndeclared(input: unknown, { expected, ruleset }: Case): unknown {
  if ('accepted' in expected) return input;
  const undeclared = expected.refused.filter(({ rule }) => rule === `${ruleset}.keys`).map(({ pointer }) => pointer);
  return undeclared.reduce((left, pointer) => without(left, stepsOf(pointer)), input);
}

function stepsOf(pointer: string): readonly string[] {
  return pointer
    .split('/')
    .slice(1)
    .map((step) => step.replaceAll('~1', '/').replaceAll('~0', '~'));
}

function without(value: unknown, [step, ...rest]: readonly string[]): unknown {
  if (step === undefined || typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) return value.map((entry, at) => (String(at) === step ? without(entry, rest) : entry));
  const entries = Object.entries(value as Given);
  if (rest.length === 0) return Object.fromEntries(entries.filter(([key]) => key !== step));
  return Object.fromEntries(entries.map(([key, inner]) => [key, key === step ? without(inner, rest) : inner]));
}
