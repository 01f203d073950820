import { valueDomain } from '../../kinds/index.js';
import { storedFields } from '../../targets/index.js';
import type { CodeMistakes } from '../mistake.js';
import { eachLine, multiByte, nullable, nullHolding, oddlySpaced } from './edit.js';

export const sqlite: CodeMistakes = {
  'only spaces trimmed': eachLine(
    /trim\((\w+), char\([^)]*\)\)/,
    'trim($1)',
    'only spaces are outer white space',
    /_canonical CHECK/,
    oddlySpaced,
  ),
  'lengths in bytes': eachLine(
    /length\((\w+)\)/,
    'length(CAST($1 AS BLOB))',
    'a character counts as often as it has bytes',
    /_max_length CHECK/,
    multiByte,
  ),
  'columns without types': {
    matters: null,
    edits(text, model) {
      // Text is stored as text, strict or not.
      if (!storedFields(model).some((field) => valueDomain(field) === 'number')) return [];
      const loose = text.replace(/\) STRICT;/g, ');');
      return [{ text: loose, words: 'columns take values of other types' }];
    },
  },
  'null characters pass': eachLine(
    /instr\(\w+, char\(0\)\) = 0 AND /,
    '',
    'U+0000 is a character like any other',
    /_type CHECK/,
    nullHolding,
  ),
  'days rolled over': eachLine(
    / AND date\((\w+), '\+0 days'\) IS \1/,
    '',
    'days that are none are taken',
    /_type CHECK/,
  ),
  'null passes': nullable((column) => new RegExp(`^( {2}"?${column}"? .*?) NOT NULL`, 'm')),
};
