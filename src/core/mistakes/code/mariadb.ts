import type { Schema } from '../../declare/index.js';
import { choicesOf, isTextual, type KnownField, targetOf, valueField } from '../../kinds/index.js';
import { storedFields } from '../../targets/index.js';
import type { CodeEdit, CodeMistakes } from '../mistake.js';
import { eachLine, inOwnTables, lettered, multiByte, nullable, oddlySpaced } from './edit.js';

export const mariadb: CodeMistakes = {
  'only spaces trimmed': eachLine(
    /(CHECK \()(`\w+`) NOT REGEXP '\^\[[^\]]*\]\|\[[^\]]*\]\\\\z'/,
    '$1$2 = trim($2)',
    'only spaces are outer white space',
    /_canonical` CHECK/,
    oddlySpaced,
  ),
  'lengths in bytes': eachLine(
    /char_length\(/,
    'length(',
    'a character counts as often as it has bytes',
    /_max_length` CHECK/,
    multiByte,
  ),
  'letter case ignored': eachLine(/'\(\?-i\)/, "'(?i)", 'letters may be in either case', /_pattern` CHECK/, lettered),
  'collation of people': {
    matters: lettered,
    edits: (text, model) =>
      storedFields(model)
        .filter((field) => isComparedByLetters(field, model))
        .flatMap(({ column, path }): readonly CodeEdit[] => {
          const find = new RegExp(`^( {2}\`${column}\` .*)utf8mb4_nopad_bin`, 'm');
          const changed = inOwnTables(text, model, (table) => table.replace(find, '$1utf8mb4_unicode_ci'));
          const constraint = `${model.ruleset}.${path}.canonical`;
          const words = 'letters in other cases, and with accents, are the same';
          return changed === text ? [] : [{ text: changed, words, constraint }];
        }),
  },
  'null passes': nullable((column) => new RegExp(`^( {2}\`${column}\` .*) NOT NULL`, 'm')),
};

/** True for text that must differ from other rows' and may be in either letter case, and for codes. */
function isComparedByLetters(field: KnownField, { constraints }: Schema[number]): boolean {
  if (choicesOf(field).some(([code]) => typeof code === 'string')) return true;
  const isApart = constraints.some(({ predicate }) => predicate.op === 'unique' && predicate.of.includes(field.path));
  return isApart && isTextual(field) && targetOf(field) === null && valueField(field).facets.case == null;
}
