import { isTextual, isTrimmed, type KnownField, valueField } from '../kinds/index.js';
import { type Wire, wires } from '../model/index.js';
import { anyLength, type Lengths, type Ranges, textHolding } from '../reason/index.js';
import { type Context, type Criterion, facetOf, givenIn, rawEntry } from './context.js';
import { patternsOf, textWithin } from './own-texts.js';
import { singleFields } from './places.js';

interface Spelling {
  readonly facet: string;
  readonly text: string;
  readonly words: string;
}

/**
 * Texts of a field's own grammar that are others once they are in canonical form, or of another length where it is not
 * counted in characters: what a code of two capitals can hold of letter case, accents and pictures.
 */
export const spellings: Criterion = (whole) =>
  singleFields(whole.model).flatMap((field) => {
    const context = givenIn(whole, [field.path]);
    return oddSpellings(context, field).flatMap(({ facet, text, words }) =>
      wires.map((wire: Wire) =>
        rawEntry(context, wire, field.path, text, { constraint: facetOf(context, field.path, facet), reason: words }),
      ),
    );
  });

/** The spellings that a text field's facets and patterns leave room for. */
export function oddSpellings(context: Context, field: KnownField): readonly Spelling[] {
  if (!isTextual(field)) return [];
  const { facets } = valueField(field);
  const { grammars } = context;
  const patterns = patternsOf(context, field);
  const routes = grammars.together(patterns);
  if (routes === null) return [];
  const holding = (characters: Ranges) => textHolding(routes, characters);
  const within = (source: string, lengths: Lengths) =>
    textWithin(grammars, [...patterns, { source, flags: 'u' }], lengths);
  // Most fields take no such character: that is known at once.
  const ofTwoUnits = (length: number) =>
    holding(twoUnits) === null ? null : within('[\\s\\S]*[\\u{10000}-\\u{10FFFF}][\\s\\S]*', [[length, length]]);
  const found: (Spelling | null)[] = [];
  const add = (facet: string, text: string | null, words: string, spell = (one: string) => one) =>
    found.push(text === null ? null : { facet, text: spell(text), words });
  if (facets.case === 'lower')
    add('canonical', holding([[0x61, 0x7a]]), 'capital letters', (text) =>
      text.replace(/[a-z]/g, (one) => one.toUpperCase()),
    );
  if (facets.case === 'upper')
    add('canonical', holding([[0x41, 0x5a]]), 'small letters', (text) =>
      text.replace(/[A-Z]/g, (one) => one.toLowerCase()),
    );
  if (facets.unicode === 'NFC')
    add('canonical', holding(accented), 'letters and accents apart', (text) => text.normalize('NFD'));
  if (facets.collapse === true)
    add('canonical', within('[\\s\\S]*[^ ] [^ ][\\s\\S]*', anyLength), 'two spaces where one is meant', (text) =>
      text.replaceAll(' ', '  '),
    );
  if (facets.lines === 'many') {
    add('canonical', holding(lineFeed), 'line ends of two characters', (text) => text.replaceAll('\n', '\r\n'));
    add('canonical', holding(lineFeed), 'carriage returns as line ends', (text) => text.replaceAll('\n', '\r'));
  } else if (!isTrimmed(field)) {
    found.push({ facet: 'lines', text: 'a\nb', words: 'a line feed inside' });
  }
  const { minLength, maxLength } = facets;
  if (typeof maxLength === 'number')
    add('maxLength', ofTwoUnits(maxLength), 'the greatest length, in characters of two units');
  if (typeof minLength === 'number' && minLength > 1)
    add('minLength', ofTwoUnits(minLength - 1), 'one character too few, of two units each');
  return found.filter((one) => one !== null);
}

const lineFeed: Ranges = [[0x0a, 0x0a]];
/** Letters that are written as one character, and as two. */
const accented: Ranges = [
  [0xc0, 0xc5],
  [0xe0, 0xe5],
];
/** Characters of two UTF-16 code units. */
const twoUnits: Ranges = [[0x10000, 0x10ffff]];
