import type { Pattern } from '../model/index.js';
import type { Kind } from './kind.js';
import { scalar } from './scalar.js';
import { canonicalText, decodeText, formatRule, textGrammar, textRules } from './text-form.js';

/** RFC 9562, section 4, in small letters: the canonical form. */
const uuidPattern: Pattern = { source: '[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}', flags: 'u' };

/** A UUID of any version (RFC 9562); its canonical form has small letters. */
export const uuid: Kind = {
  ...scalar,
  domain: 'text',
  facets: {},
  fixed: { case: 'lower' },
  grammar: textGrammar,
  blankIsAbsent: true,
  decode: (_field, input) => decodeText(input),
  canonical: (field, value) => canonicalText(field, String(value)),
  rules: (field) => textRules(field, [formatRule(field, uuidPattern)]),
  edges: () => [
    { facet: 'format', value: '018f4e2a-7c1b-7d3e-9a55-0123456789ab', words: 'a UUID of version 7' },
    { facet: 'format', value: '00000000-0000-0000-0000-000000000000', words: 'the nil UUID' },
    { facet: 'format', value: 'ffffffff-ffff-ffff-ffff-ffffffffffff', words: 'the max UUID' },
    { facet: 'format', value: '018f4e2a7c1b7d3e9a550123456789ab', words: 'without the hyphens' },
    { facet: 'format', value: '{018f4e2a-7c1b-7d3e-9a55-0123456789ab}', words: 'in braces' },
    { facet: 'format', value: 'clay', words: 'a plain word' },
    { facet: 'format', value: '018f4e2a-7c1b-7d3e-9a55-0123456789a', words: 'one digit too few' },
    { facet: 'format', value: '018f4e2a-7c1b-7d3e-9a55-0123456789ag', words: 'a letter that is no digit' },
  ],
  sample: (_field, seed) => `018f4e2a-7c1b-7d3e-9a55-${String(seed).padStart(12, '0')}`,
};
