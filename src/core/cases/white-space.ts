import { isTrimmed, valueField } from '../kinds/index.js';
import { valueAt, wires } from '../model/index.js';
import { type Criterion, facetOf, rawEntry } from './context.js';
import { singleFields } from './places.js';

const around: readonly (readonly [before: string, after: string, words: string])[] = [
  ['  ', '  ', 'spaces around it'],
  ['\t', '', 'a tab before it'],
  ['', '\r\n', 'a line end behind it'],
  ['\u00a0', '\u00a0', 'no-break spaces around it'],
  ['\u2003', '\u3000', 'wide spaces around it'],
  ['\ufeff', '', 'a byte order mark before it'],
];

/** Outer white space is taken off before anything else; stored rows have none. Line ends are one character each. */
export const whiteSpaces: Criterion = (context) =>
  singleFields(context.model)
    .filter(isTrimmed)
    .flatMap((field) => {
      const { path } = field;
      const value = String(valueAt(context.base, path) ?? '');
      const canonical = facetOf(context, path, 'canonical');
      const many = valueField(field).facets.lines === 'many';
      const lines = many
        ? { constraint: canonical, reason: 'line ends of three kinds inside' }
        : { constraint: facetOf(context, path, 'lines'), reason: 'a line feed inside' };
      const inside = many ? 'one\r\ntwo\rthree\nfour' : `${value.slice(0, 1)}\n${value.slice(1)}`;
      const shorter = `${[...value].slice(0, -1).join('')} `;
      const trimmed = {
        constraint: facetOf(context, path, 'pattern'),
        reason: 'a space instead of the last character',
      };
      return wires.flatMap((wire) => [
        ...around.map(([before, after, reason]) =>
          rawEntry(context, wire, path, `${before}${value}${after}`, { constraint: canonical, reason }),
        ),
        rawEntry(context, wire, path, inside, lines),
        // On the row wire it would break two rules at once.
        ...(wire === 'row' ? [] : [rawEntry(context, wire, path, shorter, trimmed)]),
      ]);
    });
