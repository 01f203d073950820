import { isTextual, valueField } from '../kinds/index.js';
import { type Criterion, changed, facetOf, givenIn, likelyValue } from './context.js';
import { singleFields } from './places.js';

/** Characters that layers take for others, drop, fold or can't store, each in place of the last ones of a valid text. */
const endings: readonly (readonly [ending: string, words: string])[] = [
  ['e\u0301', 'a letter and an accent as two characters (NFD)'],
  ['\u00e9', 'the same as one character (NFC)'],
  ['\u200bx', 'a zero-width space inside'],
  ['\u2060x', 'a word joiner inside'],
  ['\ufeffx', 'a byte order mark inside'],
  ['\u00adx', 'a soft hyphen inside'],
  ['\u0001x', 'a control character inside'],
  ['\u0663', 'a digit of another script'],
  ['\uff11', 'a full-width digit'],
  ['\u0130', 'a capital i with a dot, which other folding makes two characters'],
  ['\u00df', 'a letter that other folding makes two'],
  ['\u212a', 'a sign that other folding makes a k'],
  ['🏺', 'a character of two UTF-16 units'],
  ['\u{1F468}\u200d\u{1F3A8}', 'characters joined into one picture'],
  [`'"\\`, 'quotes and a backslash'],
  ['%_', 'the wildcards of LIKE'],
  ['<&', 'characters that markup must escape'],
];

/** Text in characters that layers mistake for others: they are kept as they are. */
export const characters: Criterion = (whole) =>
  singleFields(whole.model)
    .filter((field) => isTextual(field) && valueField(field).facets.pattern == null)
    .flatMap(({ path }) => {
      const context = givenIn(whole, [path]);
      const points = [...String(likelyValue(context, path) ?? '')];
      const about = (text: string) => context.brokenWith(path, text)[0] ?? facetOf(context, path, 'type');
      const swapped = points.map(swapCase).join('');
      const texts = [
        ...endings.map(([ending, words]) => {
          const kept = points.slice(0, Math.max(points.length - [...ending].length, 1));
          return [kept.join('') + ending, words] as const;
        }),
        [swapped, 'every letter in the other case'] as const,
      ];
      return texts
        .filter(([text]) => points.length > 0 && context.brokenWith(path, text).length < 2)
        .flatMap(([text, reason]) => changed(context, { [path]: text }, { constraint: about(text), reason }));
    });

function swapCase(character: string): string {
  const upper = character.toUpperCase();
  return upper === character ? character.toLowerCase() : upper;
}
