import { drawnValue } from '../cases/draw.js';
import type { Grammars } from '../cases/grammars.js';
import { canonicalValue, type KnownField } from '../kinds/index.js';
import type { Pattern, Random } from '../model/index.js';
import { wholeValue } from '../operators/index.js';
import { type Teller, toldBy } from './roles.js';

/** So long is the longest text that is held against a pattern: on it none takes long. */
const MOST_HELD = 40;

/** A text for a field: what its name asks for, as its pattern and its lengths allow; or else a text of its pattern. */
export function textFor(field: KnownField, teller: Teller, random: Random, grammars: Grammars): string | null {
  const told = toldBy(field, teller);
  const { pattern } = field.facets;
  if (pattern == null) return canonicalText(field, fitted(field, told, teller));
  const spellings = [
    told,
    slugOf(told),
    told.split(' ')[0] ?? '',
    slugOf(told.split(' ')[0] ?? ''),
    told.toUpperCase(),
  ];
  const fits = (text: string) =>
    text.length <= MOST_HELD && isOfLength(field, text) && wholeValue(pattern as Pattern).test(text);
  const found = spellings.map((text) => canonicalText(field, text)).find((text) => text !== null && fits(text));
  return found ?? (drawnValue(field, random, grammars) as string | null);
}

function canonicalText(field: KnownField, text: string): string | null {
  return canonicalValue(field, text) as string | null;
}

function isOfLength({ facets: { minLength, maxLength } }: KnownField, text: string): boolean {
  const length = [...text].length;
  return length >= Number(minLength ?? 0) && length <= Number(maxLength ?? Number.POSITIVE_INFINITY);
}

/** The text with more words until it is long enough, and cut between words where it is too long. */
function fitted({ facets: { minLength, maxLength } }: KnownField, told: string, { words }: Teller): string {
  let text = told;
  while ([...text].length < Number(minLength ?? 0)) text += ` ${words.phrase()}`;
  const most = Number(maxLength ?? Number.POSITIVE_INFINITY);
  if ([...text].length <= most) return text;
  const cut = [...text].slice(0, most).join('');
  const between = cut.lastIndexOf(' ');
  const whole = between > 0 ? cut.slice(0, between) : cut;
  return [...whole].length < Number(minLength ?? 0) ? cut.trim().padEnd(Number(minLength), 'a') : whole;
}

function slugOf(text: string): string {
  return text
    .normalize('NFD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');
}
