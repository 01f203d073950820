import type { Schema } from '../../core/declare/index.js';
import { codesOf, isTextual, type KnownField, valueDomain, valueField } from '../../core/kinds/index.js';
import { decide } from '../../core/meaning/index.js';
import {
  allFields,
  type Case,
  formName,
  listsOf,
  type Path,
  type Row,
  type Verdict,
  valueAt,
  withValue,
} from '../../core/model/index.js';
import { how, type Suspect } from './suspect.js';

type Model = Schema[number];

/** Other units than characters, in which a length may have been counted. */
const units: readonly (readonly [words: string, count: (text: string) => number])[] = [
  ['UTF-16 counting: a character beyond the first 65,536 counts as two', (text) => text.length],
  ['byte counting: a letter with an accent counts as two, an emoji as four', (text) => Buffer.byteLength(text)],
];

/** What a layer may read as another value than it is. */
interface Reading {
  readonly words: string;
  readonly of: (field: KnownField) => boolean;
  reads(value: unknown, field: KnownField): unknown;
}

const onText =
  (reads: (text: string) => unknown) =>
  (value: unknown): unknown =>
    typeof value === 'string' ? reads(value) : value;
/** What is kept, is kept as a letter would be. */
const kept = (space: string) => 'x'.repeat(space.length);

const readings: readonly Reading[] = [
  {
    words: 'only spaces trimmed: tabs and other white space stay',
    of: isTextual,
    reads: onText((text) => text.replace(/^[^\S \n\r]+|[^\S \n\r]+$/g, kept)),
  },
  {
    words: 'only spaces trimmed: tabs, line ends and other white space stay',
    of: isTextual,
    reads: onText((text) => text.replace(/^[^\S ]+|[^\S ]+$/g, kept)),
  },
  { words: 'a line end behind it is passed over', of: isTextual, reads: onText((text) => text.replace(/\n$/, '')) },
  {
    words: 'read up to a null character: what is behind it passes',
    of: isTextual,
    reads: onText((text) => text.split('\0')[0] ?? text),
  },
  {
    words: 'only characters of three bytes: emoji and all beyond the first 65,536 are refused',
    of: isTextual,
    reads: onText((text) => (/[\u{10000}-\u{10ffff}]/u.test(text) ? '\ufffd' : text)),
  },
  {
    words: 'case ignored: a code in other letters is one',
    of: (field) => codesOf(valueField(field)).length > 0,
    reads: (value, field) =>
      codesOf(valueField(field)).find((code) => String(code).toLowerCase() === String(value).toLowerCase()) ?? value,
  },
  {
    words: 'a position is taken for a code, and other letters for its own',
    of: (field) => codesOf(valueField(field)).length > 0,
    reads: (value, field) => {
      const codes = codesOf(valueField(field));
      return (
        codes[Number(value) - 1] ??
        codes.find((code) => String(code).toLowerCase() === String(value).toLowerCase()) ??
        value
      );
    },
  },
  {
    words: 'any number is a truth',
    of: (field) => valueDomain(field) === 'boolean',
    reads: (value) => (typeof value === 'number' ? true : value),
  },
  {
    words: 'days rolled over: a day that a month has not is one of the next',
    of: (field) => valueDomain(field) === 'date',
    reads: onText((text) => {
      const isPlain = /^[0-9]{4}-[0-9]{2}-(?:[0-2][0-9]|3[01])$/.test(text);
      return isPlain && !text.endsWith('-00') && text.slice(5, 7) <= '12' ? `${text.slice(0, 8)}01` : text;
    }),
  },
  {
    words: 'read as JavaScript reads dates: in many spellings, days rolled over',
    of: (field) => valueDomain(field) === 'date',
    reads: onText((text) => (Number.isNaN(Date.parse(text)) ? text : '2026-12-24')),
  },
  {
    words: 'read as any number: leading zeros and exponents',
    of: (field) => valueDomain(field) === 'number',
    reads: onText((text) =>
      text.trim() === text && text !== '' && Number.isFinite(Number(text)) ? String(Number(text)) : text,
    ),
  },
];

/** The mistakes in how a value of a field is counted or read, which no other rule would show. */
export function* measures(owner: Path, model: Model): Iterable<Suspect> {
  const field = allFields(model).find(({ path }) => path === owner);
  if (field === undefined || listsOf(owner).length > 0) return;
  yield* lengths(field, model);
  for (const { words, of, reads } of readings) {
    if (!of(field)) continue;
    yield {
      words,
      says: (one) =>
        decide(
          model,
          withRead(one, owner, (value) => reads(value, field)),
          one.wire,
          how(one),
        ),
    };
  }
}

/** A length that is counted in other units: both limits, or one of them. */
function* lengths(field: KnownField, model: Model): Iterable<Suspect> {
  if (!isTextual(field)) return;
  const facets = ['minLength', 'maxLength'].filter((facet) => typeof valueField(field).facets[facet] === 'number');
  const choices = facets.length === 2 ? [facets, ['maxLength'], ['minLength']] : [facets];
  for (const [words, count] of units) {
    for (const chosen of choices) {
      const limits = chosen.map((facet) => [facet, Number(valueField(field).facets[facet])] as const);
      const ids = chosen.map((facet) => `${model.ruleset}.${field.path}.${facet}`);
      const others = { ...model, constraints: model.constraints.filter(({ id }) => !ids.includes(id)) };
      const fits = (text: string) =>
        limits.every(([facet, limit]) => (facet === 'maxLength' ? count(text) <= limit : count(text) >= limit));
      yield { words, says: (one) => counted(decide(others, one.input, one.wire, how(one)), field.path, fits) };
    }
  }
}

function counted(verdict: Verdict, owner: Path, fits: (text: string) => boolean): Verdict {
  if (!('accepted' in verdict)) return verdict;
  const value = valueAt(verdict.accepted, owner);
  return typeof value !== 'string' || fits(value) ? verdict : { refused: [], possibly: [] };
}

/** The input with a field's value read as another one. */
function withRead({ input, wire }: Case, owner: Path, reads: (value: unknown) => unknown): unknown {
  if (typeof input !== 'object' || input === null || Array.isArray(input)) return input;
  const name = formName(owner);
  if (wire === 'form') return Object.hasOwn(input, name) ? { ...input, [name]: reads((input as Row)[name]) } : input;
  const value = valueAt(input as Row, owner);
  const read = reads(value);
  return read === value ? input : withValue(input as Row, owner, read as Row[string]);
}
