import { valueField } from '../kinds/index.js';
import { type Pattern, valueAt } from '../model/index.js';
import { wholeValue } from '../operators/index.js';
import { automatonOfPattern, coveringWords, NotRegular } from '../reason/index.js';
import { type Context, type Criterion, changed, facetOf } from './context.js';
import { singleFields } from './places.js';

const MOST_WORDS = 8;
const MOST_NEAR_MISSES = 12;

/** Words that together take every move of the pattern's automaton, and texts one edit away that it refuses. */
export const patterns: Criterion = (context) =>
  singleFields(context.model).flatMap((field) => {
    const pattern = valueField(field).facets.pattern as Pattern | undefined;
    if (pattern == null) return [];
    const constraint = facetOf(context, field.path, 'pattern');
    const refused = nearMisses(String(valueAt(context.base, field.path) ?? ''), wholeValue(pattern));
    return [
      ...acceptedWords(pattern, field.path, context).flatMap((word) =>
        changed(context, { [field.path]: word }, { constraint, reason: 'a text of the pattern' }),
      ),
      ...refused.flatMap(({ text, words }) => changed(context, { [field.path]: text }, { constraint, reason: words })),
    ];
  });

function acceptedWords(pattern: Pattern, path: string, { base }: Context): readonly string[] {
  try {
    const words = coveringWords(automatonOfPattern(pattern), MOST_WORDS);
    return words.filter((word) => word !== '' && word !== valueAt(base, path));
  } catch (error) {
    if (error instanceof NotRegular) return [];
    throw error;
  }
}

interface NearMiss {
  readonly text: string;
  readonly words: string;
}

/** One edit away from an accepted text, trimmed, and refused: what a pattern with a mistake in it lets through. */
function nearMisses(accepted: string, pattern: RegExp): readonly NearMiss[] {
  const points = [...accepted];
  const at = (index: number, instead: readonly string[]) =>
    [...points.slice(0, index), ...instead, ...points.slice(index + 1)].join('');
  const last = points.length - 1;
  const edits: NearMiss[] = [
    { text: `${accepted}x`, words: 'a letter behind it' },
    { text: `x${accepted}`, words: 'a letter before it' },
    { text: `${accepted} ${accepted}`, words: 'twice, with a space between' },
    { text: at(last, []), words: 'the last character is missing' },
    { text: at(0, []), words: 'the first character is missing' },
    { text: at(last, [points[last] ?? '', points[last] ?? '']), words: 'the last character is doubled' },
    { text: accepted.toLowerCase(), words: 'in small letters' },
    { text: accepted.toUpperCase(), words: 'in capitals' },
    { text: accepted.replace(/[0-9](?=[^0-9]*$)/, '٣'), words: 'a digit of another script' },
    { text: accepted.replace(/[A-Za-z]/, 'é'), words: 'an accented letter' },
    { text: accepted.replaceAll('-', '–'), words: 'a dash instead of the hyphen' },
    { text: accepted.replaceAll('-', ''), words: 'without the hyphen' },
    { text: accepted.replaceAll(' ', ''), words: 'without the space' },
    { text: accepted.replaceAll('.', 'x'), words: 'a letter instead of the dot' },
    ...points.map((_, index) => ({ text: at(index, ['_']), words: 'another character inside' })),
  ];
  const seen = new Set([accepted]);
  const refused = edits.filter(({ text }) => {
    const fresh = !seen.has(text) && text !== '' && text.trim() === text && !pattern.test(text);
    seen.add(text);
    return fresh;
  });
  return refused.slice(0, MOST_NEAR_MISSES);
}
