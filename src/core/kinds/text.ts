import type { Edge, Kind } from './kind.js';
import { scalar } from './scalar.js';
import { canonicalText, decodeText, textFacets, textGrammar, textRules } from './text-form.js';

const WORDS = ['ember', 'ash', 'clay', 'kiln', 'rim', 'foot', 'slip', 'cone', 'wheel', 'shard'];

/** Text of one line or many. */
export const text: Kind = {
  ...scalar,
  domain: 'text',
  facets: { ...textFacets, lines: 'one or many' },
  grammar: textGrammar,
  blankIsAbsent: true,
  decode: (_field, input) => decodeText(input),
  canonical: (field, value) => canonicalText(field, String(value)),
  rules: (field) => textRules(field, []),
  edges(field) {
    const edges: Edge[] = [];
    const { minLength, maxLength, charset } = field.facets;
    const letter = field.facets.case === 'upper' ? 'A' : 'a';
    const add = (facet: string, length: number, words: string, of = letter) => {
      if (length > 0) edges.push({ facet, value: of.repeat(length), words });
    };
    if (typeof minLength === 'number') {
      add('minLength', minLength - 1, 'one character below the least length');
      add('minLength', minLength, 'exactly the least length');
      add('minLength', minLength + 1, 'one character above the least length');
      add('minLength', minLength - 1, 'one below the least length, in characters of two UTF-16 units', '🏺');
    }
    if (typeof maxLength === 'number') {
      add('maxLength', maxLength, 'exactly the greatest length');
      add('maxLength', maxLength + 1, 'one character above the greatest length');
      add('maxLength', maxLength - 1, 'one character below the greatest length');
      // A column has room for one more, so that what is cut to it is too long still.
      add('maxLength', maxLength + 2, 'two characters above the greatest length');
      // What a column cuts silently where nothing but blanks is cut.
      if (field.facets.trim === false)
        edges.push({
          facet: 'maxLength',
          value: `${letter.repeat(maxLength)} `,
          words: 'exactly the maximum length, and a blank behind it',
        });
      if (field.facets.lines === 'many' && maxLength > 4) {
        // Two line ends, each of which is two characters where a form sends it.
        const lines = (length: number) => `${letter}\n${letter}\n${letter.repeat(length - 4)}`;
        edges.push({
          facet: 'maxLength',
          value: lines(maxLength),
          words: 'exactly the maximum length, with line ends inside',
        });
        edges.push({
          facet: 'maxLength',
          value: lines(maxLength + 1),
          words: 'one character above the maximum length, with line ends inside',
        });
      }
      if (charset == null) {
        add('maxLength', maxLength, 'exactly the greatest length, in characters of two UTF-16 units', '🏺');
        add('maxLength', maxLength, 'exactly the greatest length, in characters of two bytes', 'é');
        add('maxLength', maxLength + 1, 'one above the greatest length, in characters of two bytes', 'é');
        const marked = `${'e\u0301'.repeat(Math.ceil(maxLength / 2))}e`;
        const cut = [...marked].slice(0, maxLength).join('');
        edges.push({
          facet: 'maxLength',
          value: cut,
          words: 'exactly the greatest length, in letters with accents apart',
        });
      }
    }
    const least = typeof minLength === 'number' ? Math.max(minLength, 1) : 1;
    if (charset != null) {
      add('charset', least, 'letters with accents', 'é');
      add('charset', least, 'letters of another script', 'ж');
      add('charset', least, 'characters of two UTF-16 units', '🏺');
    }
    return edges;
  },
  sample(field, seed) {
    const least = typeof field.facets.minLength === 'number' ? field.facets.minLength : 1;
    const most = typeof field.facets.maxLength === 'number' ? field.facets.maxLength : 40;
    const words = sampleText(seed, least, most);
    return field.facets.case === 'upper' ? words.toUpperCase() : words;
  },
};

/** Words of the trade and the seed's digits, cut and filled to the wanted length. */
function sampleText(seed: number, least: number, most: number): string {
  const word = WORDS[seed % WORDS.length] ?? 'clay';
  const round = Math.floor(seed / WORDS.length);
  const wanted = round === 0 ? word : `${word}${round}`;
  const cut = wanted.length > most ? String(seed).padStart(most, '0').slice(-Math.max(most, 1)) : wanted;
  return cut.padEnd(least, 'a');
}
