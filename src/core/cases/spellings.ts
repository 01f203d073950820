import { isTextual, isTrimmed, type KnownField, valueField } from '../kinds/index.js';
import { type Pattern, type Wire, wires } from '../model/index.js';
import { anyLength, type Lengths, shortestLength, wordOfLength } from '../reason/index.js';
import { type Context, type Criterion, facetOf, givenIn, rawEntry } from './context.js';
import type { Grammars } from './grammars.js';
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
  const word = (holding: string, lengths: Lengths = anyLength) => wordHolding(grammars, patterns, holding, lengths);
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

/** A text of a field's own grammar of just so many characters; null where there is none. */
export function textOfLength(context: Context, field: KnownField, length: number): string | null {
  const grammar = isTextual(field) ? context.grammars.together(patternsOf(context, field)) : null;
  const shortest = grammar === null ? 'none' : shortestLength(grammar, [[length, length]]);
  return typeof shortest === 'object' && grammar !== null ? wordOfLength(grammar, length) : null;
}

/** Of the texts that a field allows, the length apart. */
function patternsOf(context: Context, field: KnownField): readonly Pattern[] {
  const patterns = context.model.constraints.flatMap(({ owner, facet, predicate }) =>
    facet && owner === field.path && predicate.op === 'matches' ? [predicate.pattern] : [],
  );
  const outer: Pattern = { source: '\\S(?:[\\s\\S]*\\S)?', flags: 'u' };
  return [outer, ...patterns];
}

/** The shortest text of some patterns that holds something, of one of the lengths; null where there is none. */
function wordHolding(
  grammars: Grammars,
  patterns: readonly Pattern[],
  holding: string,
  lengths: Lengths,
): string | null {
  const held: Pattern = { source: `[\\s\\S]*${holding}[\\s\\S]*`, flags: 'u' };
  const both = grammars.together([...patterns, held]);
  const shortest = both === null ? 'none' : shortestLength(both, lengths);
  return typeof shortest === 'object' && both !== null ? wordOfLength(both, shortest.length) : null;
}
