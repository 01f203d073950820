import type { Field, Pattern } from '../model/index.js';
import type { Kind } from './kind.js';
import { scalar } from './scalar.js';
import { canonicalText, decodeText, formatRule, textGrammar, textRules } from './text-form.js';

const octet = '(?:[0-9]|[1-9][0-9]|1[0-9]{2}|2[0-4][0-9]|25[0-5])';
const v4 = `${octet}(?:\\.${octet}){3}`;
const group = '[0-9a-f]{1,4}';
const tail = `(?:${group}:${group}|${v4})`;

/** IPv6address of RFC 3986, section 3.2.2, in small letters. */
const v6 = [
  `(?:${group}:){6}${tail}`,
  `::(?:${group}:){5}${tail}`,
  `(?:${group})?::(?:${group}:){4}${tail}`,
  `(?:(?:${group}:){0,1}${group})?::(?:${group}:){3}${tail}`,
  `(?:(?:${group}:){0,2}${group})?::(?:${group}:){2}${tail}`,
  `(?:(?:${group}:){0,3}${group})?::${group}:${tail}`,
  `(?:(?:${group}:){0,4}${group})?::${tail}`,
  `(?:(?:${group}:){0,5}${group})?::${group}`,
  `(?:(?:${group}:){0,6}${group})?::`,
].join('|');

const patterns: { readonly [version: string]: Pattern } = {
  4: { source: v4, flags: 'u' },
  6: { source: v6, flags: 'u' },
  any: { source: `${v4}|${v6}`, flags: 'u' },
};

function ipPattern({ facets }: Field): Pattern {
  return patterns[String(facets.version ?? 'any')] as Pattern;
}

/**
 * An address of IP, version 4 in four decimal numbers, version 6 as RFC 3986 writes it. Its canonical form has small
 * letters; how many zeros are written out is kept as it was sent.
 */
export const ip: Kind = {
  ...scalar,
  domain: 'text',
  facets: { version: 'IP version' },
  fixed: { case: 'lower' },
  grammar: textGrammar,
  blankIsAbsent: true,
  decode: (_field, input) => decodeText(input),
  canonical: (field, value) => canonicalText(field, String(value)),
  rules: (field) => textRules(field, [formatRule(field, ipPattern(field))]),
  edges: () => [
    { facet: 'format', value: '0.0.0.0', words: 'the least address of version 4' },
    { facet: 'format', value: '255.255.255.255', words: 'the greatest address of version 4' },
    { facet: 'format', value: '256.0.0.1', words: 'a part over 255' },
    { facet: 'format', value: '192.168.1', words: 'a part too few' },
    { facet: 'format', value: '192.168.01.1', words: 'a leading zero, which some read as octal' },
    { facet: 'format', value: '::1', words: 'a shortened address of version 6' },
    { facet: 'format', value: '2001:db8:0:0:0:0:0:1', words: 'a full address of version 6' },
    { facet: 'format', value: '2001:db8::1::2', words: 'shortened twice' },
    { facet: 'format', value: '::ffff:192.0.2.1', words: 'an address of version 4 within one of version 6' },
    { facet: 'format', value: '192.0.2.0/24', words: 'a network instead of an address' },
    { facet: 'format', value: '[::1]', words: 'in brackets' },
  ],
  sample: ({ facets }, seed) => (facets.version === 6 ? `2001:db8::${(seed % 9999) + 1}` : `192.0.2.${seed % 256}`),
};
