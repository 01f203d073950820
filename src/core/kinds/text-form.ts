import type { Field, Pattern } from '../model/index.js';
import { fieldTerm, literalTerm, type Predicate } from '../model/index.js';
import { type Decoded, type FacetRule, refused } from './kind.js';
import { whiteSpace } from './white-space.js';

/** What no layer can carry: U+0000, lone surrogates, and U+FFFD, which encoders leave where text was damaged. */
const DAMAGED = /[\u0000\ufffd\p{Surrogate}]/u;
/** Line feed and carriage return: what a one-line control drops. */
export const oneLine: Pattern = { source: '[^\\n\\r]*', flags: 'u' };

const charsets: { readonly [charset: string]: string } = {
  ascii: '[\\x01-\\x7F]*',
  'latin-1': '[\\x01-\\xFF]*',
  bmp: '[\\u{1}-\\u{FFFF}]*',
};
export const charsetNames: readonly string[] = Object.keys(charsets);

/** The grammar of text on every wire, in words. */
export const textGrammar = {
  form: 'any Unicode scalar values but U+0000 and U+FFFD',
  json: 'a JSON string of the same characters',
  row: 'a string of the same characters',
} as const;

/** Reads text of any kind: what it must look like besides is a rule, judged on its canonical form. */
export function decodeText(input: unknown): Decoded {
  return typeof input !== 'string' || DAMAGED.test(input) ? refused : { value: input };
}

const SPACES = new RegExp(`[${whiteSpace.map((point) => `\\u{${point.toString(16)}}`).join('')}]+`, 'gu');

/**
 * The canonical form of text, in this order, so that twice gives the same as once: line ends, outer white space, inner
 * runs, Unicode's normal form C, letter case (A–Z and a–z only). Null where nothing is left.
 */
export function canonicalText({ facets }: Field, value: string): string | null {
  let text = facets.lines === 'many' ? value.replace(/\r\n?/g, '\n') : value;
  if (facets.trim !== false) text = text.trim();
  if (facets.collapse === true) text = text.replace(SPACES, ' ');
  const isComposed = facets.unicode === 'NFC';
  // The form C of some signs is a letter of A–Z, such as that of the Kelvin sign.
  if (isComposed) text = text.normalize('NFC');
  if (facets.case === 'lower') text = text.replace(/[A-Z]/g, (letter) => letter.toLowerCase());
  if (facets.case === 'upper') text = text.replace(/[a-z]/g, (letter) => letter.toUpperCase());
  // A letter of the other case may have a form with the mark behind it.
  if (isComposed && facets.case != null) text = text.normalize('NFC');
  return text === '' ? null : text;
}

/** The rules of text, in the order in which they are told: its form on a stored row, then `own`, then lengths. */
export function textRules(field: Field, own: readonly FacetRule[]): readonly FacetRule[] {
  const of = fieldTerm(field.path);
  const { minLength, maxLength, lines, charset, pattern } = field.facets;
  const form = (facet: string, predicate: Predicate, limit?: string | number): FacetRule => ({
    facet,
    stage: 'form',
    predicate,
    ...(limit === undefined ? {} : { limit }),
  });
  const length = (by: '<=' | '>=', count: number): Predicate => ({
    op: 'compare',
    left: { term: 'length', of },
    by,
    right: literalTerm(count, 'number'),
    domain: 'number',
  });
  const source = typeof charset === 'string' ? charsets[charset] : undefined;
  return [
    form('canonical', { op: 'canonical', of: field.path }),
    ...(lines === 'many' ? [] : [form('lines', { op: 'matches', of, pattern: oneLine })]),
    ...own,
    ...(source === undefined
      ? []
      : [form('charset', { op: 'matches', of, pattern: { source, flags: 'u' } }, String(charset))]),
    ...(typeof minLength === 'number' ? [form('minLength', length('>=', minLength), minLength)] : []),
    ...(typeof maxLength === 'number' ? [form('maxLength', length('<=', maxLength), maxLength)] : []),
    ...(pattern == null ? [] : [form('pattern', { op: 'matches', of, pattern: pattern as Pattern })]),
  ];
}

/** The rule that canonical text is in a grammar of ours. */
export function formatRule(field: Field, pattern: Pattern): FacetRule {
  return { facet: 'format', stage: 'form', predicate: { op: 'matches', of: fieldTerm(field.path), pattern } };
}

/** The pattern that says what a text looks like, whether declared or its kind's own; null where neither does. */
export const textFacets = {
  minLength: 'count',
  maxLength: 'count',
  pattern: 'pattern',
  charset: 'charset',
  trim: 'flag',
  collapse: 'flag',
  case: 'letter case',
  unicode: 'normal form',
} as const;
