import type { Pattern } from '../model/index.js';
import type { Edge, Kind } from './kind.js';
import { scalar } from './scalar.js';
import { canonicalText, decodeText, formatRule, textFacets, textGrammar, textRules } from './text-form.js';

/** RFC 5321, 4.5.3.1.1: the most octets of a local part; and of a path (256) without its angle brackets. */
const MOST_LOCAL = 64;
const MOST = 254;

const label = '[a-zA-Z0-9](?:[a-zA-Z0-9\\-]{0,61}[a-zA-Z0-9])?';

/** The HTML standard's definition of a valid e-mail address, with the local part no longer than RFC 5321 allows. */
const emailPattern: Pattern = {
  source: `[a-zA-Z0-9.!#$%&'*+\\/=?^_\`{|}~\\-]{1,${MOST_LOCAL}}@${label}(?:\\.${label})*`,
  flags: 'u',
};

/** An e-mail address as the HTML standard defines it, within the length limits of RFC 5321. */
export const email: Kind = {
  ...scalar,
  domain: 'text',
  facets: textFacets,
  grammar: textGrammar,
  blankIsAbsent: true,
  decode: (_field, input) => decodeText(input),
  canonical: (field, value) => canonicalText(field, String(value)),
  rules: (field) =>
    textRules({ ...field, facets: { ...field.facets, maxLength: mostLength(field.facets.maxLength) } }, [
      formatRule(field, emailPattern),
    ]),
  edges: ({ facets }) => [
    ...(mostLength(facets.maxLength) < MOST ? [] : longest()),
    { facet: 'format', value: 'clay', words: 'no at sign' },
    { facet: 'format', value: 'clay@', words: 'nothing behind the at sign' },
    { facet: 'format', value: '@mail.example', words: 'nothing before the at sign' },
    { facet: 'format', value: 'anna@mail@post.example', words: 'two at signs' },
    { facet: 'format', value: 'anna maria@mail.example', words: 'a space inside' },
    { facet: 'format', value: 'anna@mail..example', words: 'two dots in a row behind the at sign' },
    { facet: 'format', value: 'anna@-mail.example', words: 'a part of the domain that begins with a hyphen' },
    { facet: 'format', value: 'jürgen@mail.example', words: 'a letter with an accent' },
    { facet: 'format', value: 'anna@mail', words: 'a domain without a dot, which the standard allows' },
    { facet: 'format', value: `${'a'.repeat(MOST_LOCAL)}@mail.example`, words: 'the longest local part' },
    { facet: 'format', value: `${'a'.repeat(MOST_LOCAL + 1)}@mail.example`, words: 'a local part too long by one' },
  ],
  sample: (_field, seed) => `person${seed}@mail.example`,
};

/** As long as RFC 5321 allows, and one more. */
function longest(): readonly Edge[] {
  const address = (last: number) => `${'a'.repeat(MOST_LOCAL)}@${'b'.repeat(63)}.${'b'.repeat(63)}.${'b'.repeat(last)}`;
  const last = MOST - MOST_LOCAL - 129;
  return [
    { facet: 'maxLength', value: address(last), words: 'exactly the greatest length' },
    { facet: 'maxLength', value: address(last + 1), words: 'one character above the greatest length' },
  ];
}

function mostLength(declared: unknown): number {
  return typeof declared === 'number' && declared < MOST ? declared : MOST;
}
