import { isTrimmed, type KnownField, valueField, whiteSpace } from '../kinds/index.js';
import { type Criterion, facetOf, givenIn, likelyValue, rawEntry } from './context.js';
import { singleFields } from './places.js';

const around: readonly (readonly [before: string, after: string, words: string])[] = [
  ['  ', '  ', 'spaces around it'],
  ['\t', '', 'a tab before it'],
  ['', '\r\n', 'a line end behind it'],
  ['', '\n', 'a line feed behind it'],
  ['\r', '', 'a carriage return before it'],
  ['\u00a0', '\u00a0', 'no-break spaces around it'],
  ['\u2003', '\u3000', 'wide spaces around it'],
  ['\u2028', '\u2029', 'a line and a paragraph separator around it'],
  ['\ufeff', '', 'a byte order mark before it'],
];

/** What looks like white space and is none. */
const kept: readonly (readonly [character: string, words: string])[] = [
  ['\u200b', 'zero-width spaces around it, which stay'],
  ['\u180e', 'Mongolian vowel separators around it, which stay'],
  ['\u0085', 'next-line characters around it, which stay'],
  ['\u001f', 'unit separators around it, which stay'],
];

const all = String.fromCodePoint(...whiteSpace);

/**
 * Outer white space is taken off before anything else, of every kind and on both ends; stored rows have none. Line ends
 * are one character each.
 */
export const whiteSpaces: Criterion = (whole) =>
  singleFields(whole.model)
    .filter(isTrimmed)
    .flatMap((field) => {
      const { path } = field;
      const context = givenIn(whole, [path]);
      const value = String(likelyValue(context, path) ?? '');
      const canonical = facetOf(context, path, 'canonical');
      const put = (wire: 'form' | 'json' | 'row', text: string, constraint: string, reason: string) =>
        rawEntry(context, wire, path, text, { constraint, reason });
      const read = (['form', 'json'] as const).flatMap((wire) => [
        ...around.map(([before, after, words]) => put(wire, `${before}${value}${after}`, canonical, words)),
        put(wire, `${all}${value}${all}`, canonical, `all ${whiteSpace.length} characters of white space around it`),
        put(
          wire,
          `${[...value].slice(0, -1).join('')} `,
          facetOf(context, path, 'pattern'),
          'a space instead of the last character',
        ),
      ]);
      const { facets } = valueField(field);
      const longest = (facets.case === 'upper' ? 'A' : 'a').repeat(Number(facets.maxLength ?? 0));
      const maximum = facetOf(context, path, 'maxLength');
      // Whoever counts or cuts before blanks are taken off is wrong about these.
      const full =
        longest === '' || context.brokenWith(path, longest).length > 0
          ? []
          : [
              ...(['form', 'json'] as const).map((wire) =>
                put(wire, ` ${longest} `, maximum, 'exactly the maximum length, and spaces around it'),
              ),
              put('row', `${longest} `, maximum, 'exactly the maximum length, and a space behind it'),
            ];
      const spaced = inTwo(field, value, '  ');
      const apart = (['form', 'json', 'row'] as const)
        .filter(() => facets.collapse !== true && context.brokenWith(path, spaced).length < 2)
        .map((wire) =>
          put(wire, spaced, context.brokenWith(path, spaced)[0] ?? canonical, 'two spaces inside, which stay'),
        );
      // Each by itself, as a column refuses it for whichever it knows.
      const stored = whiteSpace.map((point) => {
        const character = String.fromCodePoint(point);
        const name = `U+${point.toString(16).toUpperCase().padStart(4, '0')}`;
        return put('row', `${character}${value}${character}`, canonical, `${name} around it`);
      });
      const oneSided = [
        put('row', ` ${value}`, canonical, 'a space before it'),
        put('row', `${value} `, canonical, 'a space behind it'),
        put('row', `${value}\u00a0`, canonical, 'a no-break space behind it'),
        put('row', `${value}\n`, canonical, 'a line feed behind it'),
      ];
      const strange = (['form', 'json', 'row'] as const).flatMap((wire) =>
        kept
          .map(([character, words]) => [`${character}${value}${character}`, words] as const)
          .filter(([text]) => context.brokenWith(path, text).length < 2)
          .map(([text, words]) => put(wire, text, context.brokenWith(path, text)[0] ?? canonical, words)),
      );
      const many = facets.lines === 'many';
      const inside = (['form', 'json', 'row'] as const).flatMap((wire) =>
        many ? lineEnds(value).map(([text, words]) => put(wire, text, canonical, words)) : oneLine(wire),
      );
      return [...read, ...full, ...stored, ...oneSided, ...strange, ...apart, ...inside];

      function oneLine(wire: 'form' | 'json' | 'row') {
        return [
          put(wire, inTwo(field, value, '\n'), facetOf(context, path, 'lines'), 'a line feed inside'),
          put(wire, inTwo(field, value, '\r'), facetOf(context, path, 'lines'), 'a carriage return inside'),
        ];
      }
    });

/** A text with a line end behind its first character, no longer than its field allows. */
export function inTwo(field: KnownField, value: string, end: string): string {
  const { maxLength } = valueField(field).facets;
  const [first = '', ...rest] = [...value];
  const room = typeof maxLength === 'number' ? Math.max(maxLength - 1 - end.length, 0) : rest.length;
  return `${first}${end}${rest.slice(0, room).join('')}`;
}

function lineEnds(value: string): readonly (readonly [text: string, words: string])[] {
  return [
    ['one\r\ntwo\rthree\nfour', 'line ends in all three spellings inside'],
    [`${value}\r\nx`, 'a carriage return and a line feed inside'],
    [`${value}\rx`, 'a carriage return inside'],
    [`${value}\nx`, 'a line feed inside'],
    [`${value}\n\nx`, 'an empty line inside'],
  ];
}
