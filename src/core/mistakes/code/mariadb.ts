import type { CodeMistakes } from '../mistake.js';
import { eachLine, lettered, multiByte, nullable, oddlySpaced } from './edit.js';

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
  'collation of people': eachLine(
    /utf8mb4_nopad_bin/,
    'utf8mb4_unicode_ci',
    'letters in other cases, and with accents, are the same',
    /^ {2}`\w+` /,
  ),
  'null passes': nullable((column) => new RegExp(`^( {2}\`${column}\` .*) NOT NULL`, 'm')),
};
