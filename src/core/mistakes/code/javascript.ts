import type { Schema } from '../../declare/index.js';
import { isNumeric, valueField, valuesOf } from '../../kinds/index.js';
import type { CodeMistakes } from '../mistake.js';
import { facetsNamed, valued } from '../places.js';
import { astral, everywhere } from './edit.js';

const ASCII_TRIM = "raw.replace(/^[ \\t\\r\\n\\f\\v]+|[ \\t\\r\\n\\f\\v]+$/g, '')";

/** What hand-written checks get wrong, in the parts that all fields of a module share. */
export const javascript: CodeMistakes = {
  'lengths in UTF-16 units': everywhere(
    '    length -= 1;\n',
    '',
    'a character of two units counts twice',
    astral,
    hasLengths,
  ),
  'only ASCII trimmed': everywhere('raw.trim()', ASCII_TRIM, 'other white space than that of ASCII stays'),
  'trimmed at the end only': everywhere('raw.trim()', 'raw.trimEnd()', 'white space before the text stays'),
  'blank is a value': everywhere("return text === '' ? null : text;", 'return text;', 'a blank text is not absent'),
  'damaged text passes': everywhere(
    'if (unit === 0 || unit === 0xfffd) return NaN;\n',
    '\n',
    'U+0000 and U+FFFD are characters like any other',
  ),
  'lone surrogates pass': everywhere(
    'if (unit > 0xdbff || next < 0xdc00 || next > 0xdfff) return NaN;\n',
    '\n',
    'half a character is taken for one',
  ),
  'days of other months': everywhere(
    'return day <= 28 || day <= daysInMonth(century * 100 + year, month);',
    'return day <= 31;',
    'every month has 31 days',
  ),
  'every fourth year leaps': everywhere(
    'year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0)',
    'year % 4 === 0',
    'centuries are leap years',
  ),
  'any spelling of a number': everywhere(
    "if (form && (typeof raw !== 'string' || !plainInteger.test(raw))) return undefined;",
    "if (form && (typeof raw !== 'string' || Number.isNaN(Number(raw)))) return undefined;",
    'what Number() reads is a number',
  ),
  'digits up to a letter': {
    matters: null,
    edits(text) {
      const read = text
        .replace('!plainInteger.test(raw)', 'Number.isNaN(Number.parseInt(raw, 10))')
        .replace('const number = form ? Number(raw) : raw;', 'const number = form ? Number.parseInt(raw, 10) : raw;');
      return read === text ? [] : [{ text: read, words: 'what parseInt() reads is a number' }];
    },
  },
  'beyond the safe integers': everywhere(
    'Number.isSafeInteger(number)',
    'Number.isInteger(number)',
    'integers that are not exact are taken',
    null,
    hasIntegers,
  ),
  'line ends as they come': everywhere(/\(withLines\((raw\w*)\)\)/g, '($1)', 'a carriage return stays'),
  'yes is true': everywhere(
    "raw === 'true' || raw === 'on'",
    "raw === 'true' || raw === 'on' || raw === 'yes'",
    'yes is true',
  ),
  'truth by any value': everywhere(
    "if (!form) return typeof raw === 'boolean' ? raw : undefined;",
    'if (!form) return Boolean(raw);',
    'anything is true or false',
  ),
  'keys of the prototype': everywhere(
    /if \(!(declared_+)\.has\(key\)\)/g,
    'if (!(key in {}) && !$1.has(key))',
    'a key that every object has is passed over',
  ),
  'form entries twice': everywhere(
    'if (entries.length > 1 && shape === 0) return twice;\n',
    '\n',
    'of several entries the last counts',
  ),
};

/** True where some field takes any integer: the codes of a choice are few. */
function hasIntegers(model: Schema[number]): boolean {
  return valued(model).some((field) => isNumeric(field) && valuesOf(valueField(field)) === null);
}

/** True where some text has a least or a greatest length. */
function hasLengths(model: Schema[number]): boolean {
  return facetsNamed(model, 'minLength').length + facetsNamed(model, 'maxLength').length > 0;
}
