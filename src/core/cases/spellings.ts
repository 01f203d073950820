import { isTextual, isTrimmed, type KnownField, valueField } from '../kinds/index.js';
import { type Wire, wires } from '../model/index.js';
import { anyLength, type Lengths } from '../reason/index.js';
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
  if (grammars.together(patterns) === null) return [];
  const word = (holding: string, lengths: Lengths = anyLength) =>
    textWithin(grammars, [...patterns, { source: `[\\s\\S]*${holding}[\\s\\S]*`, flags: 'u' }], lengths);
  const found: (Spelling | null)[] = [];
  const add = (facet: string, text: string | null, words: string, spell = (one: string) => one) =>
    found.push(text === null ? null : { facet, text: spell(text), words });
  if (facets.case === 'lower')
    add('canonical', word('[a-z]'), 'capital letters', (text) => text.replace(/[a-z]/g, (one) => one.toUpperCase()));
  if (facets.case === 'upper')
    add('canonical', word('[A-Z]'), 'small letters', (text) => text.replace(/[A-Z]/g, (one) => one.toLowerCase()));
  if (facets.unicode === 'NFC')
    add('canonical', word('[\\u00c0-\\u00c5\\u00e0-\\u00e5]'), 'letters and accents apart', (text) =>
      text.normalize('NFD'),
    );
  if (facets.collapse === true)
    add('canonical', word('[^ ] [^ ]'), 'two spaces where one is meant', (text) => text.replaceAll(' ', '  '));
  if (facets.lines === 'many') {
    add('canonical', word('\\n'), 'line ends of two characters', (text) => text.replaceAll('\n', '\r\n'));
    add('canonical', word('\\n'), 'carriage returns as line ends', (text) => text.replaceAll('\n', '\r'));
  } else if (!isTrimmed(field)) {
    found.push({ facet: 'lines', text: 'a\nb', words: 'a line feed inside' });
  }
  const { minLength, maxLength } = facets;
  if (typeof maxLength === 'number')
    add('maxLength', word(TWO_UNITS, [[maxLength, maxLength]]), 'the greatest length, in characters of two units');
  if (typeof minLength === 'number' && minLength > 1)
    add('minLength', word(TWO_UNITS, [[minLength - 1, minLength - 1]]), 'one character too few, of two units each');
  return found.filter((one) => one !== null);
}

const TWO_UNITS = '[\\u{10000}-\\u{10FFFF}]';
