import type { Field, Pattern } from '../model/index.js';
import type { Kind } from './kind.js';
import { scalar } from './scalar.js';
import { canonicalText, decodeText, formatRule, textFacets, textGrammar, textRules } from './text-form.js';

const label = '[A-Za-z0-9](?:[A-Za-z0-9\\-]{0,61}[A-Za-z0-9])?';
const escaped = '%[0-9A-Fa-f]{2}';
/** pchar of RFC 3986, with the slash of a path, and with the question mark of a query and fragment. */
const path = `(?:[A-Za-z0-9\\-._~!$&'\\(\\)*+,;=:@\\/]|${escaped})*`;
const query = `(?:[A-Za-z0-9\\-._~!$&'\\(\\)*+,;=:@\\/?]|${escaped})*`;

/**
 * An absolute address (RFC 3986) with a host name (RFC 1123) and no user name: a regular grammar of ours, not an
 * engine's parser, which would repair what is wrong.
 */
function urlPattern(schemes: readonly string[]): Pattern {
  const scheme = schemes
    .map((one) =>
      [...one]
        .map((letter) =>
          /[a-z]/.test(letter) ? `[${letter.toUpperCase()}${letter}]` : `\\u{${letter.charCodeAt(0).toString(16)}}`,
        )
        .join(''),
    )
    .join('|');
  return {
    source: `(?:${scheme}):\\/\\/${label}(?:\\.${label})*(?::[0-9]{1,5})?(?:\\/${path})?(?:\\?${query})?(?:#${query})?`,
    flags: 'u',
  };
}

function schemesOf({ facets }: Field): readonly string[] {
  return Array.isArray(facets.schemes) ? facets.schemes.map(String) : ['http', 'https'];
}

/** An absolute web address. */
export const url: Kind = {
  ...scalar,
  domain: 'text',
  facets: { ...textFacets, schemes: 'schemes' },
  grammar: textGrammar,
  blankIsAbsent: true,
  decode: (_field, input) => decodeText(input),
  canonical: (field, value) => canonicalText(field, String(value)),
  rules: (field) => textRules(field, [formatRule(field, urlPattern(schemesOf(field)))]),
  edges(field) {
    const [scheme = 'https'] = schemesOf(field);
    const edge = (value: string, words: string) => ({ facet: 'format', value, words });
    return [
      edge('site.example', 'no scheme'),
      edge('//site.example/pages', 'no scheme before the slashes'),
      edge('/pages', 'a path alone'),
      edge(`${scheme}:site.example`, 'no slashes'),
      edge(`${scheme}://`, 'no host'),
      edge(`${scheme}://site.example:80a`, 'a port that is no number'),
      edge(`${scheme}://site.example/a b`, 'a space inside'),
      edge(`${scheme}://user@site.example`, 'a user name'),
      edge(`${scheme}://site.example/%zz`, 'an escape that is none'),
      edge('javascript:alert(1)', 'a scheme that runs code'),
      edge(`${scheme.toUpperCase()}://SITE.example`, 'a scheme in capitals'),
      edge(`${scheme}://site.example:8080/pages/%C3%A9?colour=red#top`, 'with a port, a path, a query and a fragment'),
    ];
  },
  sample: (field, seed) => `${schemesOf(field).at(-1) ?? 'https'}://site.example/pages/${seed}`,
};
