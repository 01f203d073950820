import { storedFields } from '../../targets/index.js';
import type { CodeEdit, CodeMistakes } from '../mistake.js';
import { eachLine, inOwnTables, lettered, multiByte, nullable, oddlySpaced } from './edit.js';

export const postgresql: CodeMistakes = {
  'only spaces trimmed': eachLine(
    /btrim\((\w+|"[^"]+"), E'[^']*'\)/,
    'btrim($1)',
    'only spaces are outer white space',
    /_canonical CHECK/,
    oddlySpaced,
  ),
  'lengths in bytes': eachLine(
    /char_length\(/,
    'octet_length(',
    'a character counts as often as it has bytes',
    /_max_length CHECK/,
    multiByte,
  ),
  'letter case ignored': eachLine(/ ~ (E?')/, ' ~* $1', 'letters may be in either case', /_pattern CHECK/, lettered),
  'scale rounded': {
    matters: null,
    edits: (text, model) =>
      storedFields(model).flatMap(({ column, path, facets }): readonly CodeEdit[] => {
        const find = new RegExp(`^( {2}"?${column}"?) numeric\\b`, 'm');
        const changed = inOwnTables(text, model, (table) =>
          table.replace(find, `$1 numeric(${facets.precision}, ${facets.scale})`),
        );
        const constraint = `${model.ruleset}.${path}.scale`;
        return changed === text ? [] : [{ text: changed, words: 'finer fractions are rounded', constraint }];
      }),
  },
  'null passes': nullable((column) => new RegExp(`^( {2}"?${column}"? .*) NOT NULL`, 'm')),
};
