import { quoteName } from '../sql/index.js';

/** Spelling of names and literals. A literal has no escapes: control characters are joined in as char(n). */
export const spelling = {
  name: quoteName,
  text(text: string): string {
    const pieces = text.split(/([\u0000-\u001f\u007f-\u009f\u2028\u2029\ufeff]+)/u).filter((piece) => piece !== '');
    const printed = pieces.map((piece) =>
      /^[\u0000-\u001f\u007f-\u009f\u2028\u2029\ufeff]/u.test(piece)
        ? `char(${[...piece].map((character) => character.codePointAt(0)).join(', ')})`
        : `'${piece.replaceAll("'", "''")}'`,
    );
    if (printed.length === 0) return "''";
    return printed.length === 1 ? (printed[0] ?? '') : `(${printed.join(' || ')})`;
  },
  truth: (value: boolean) => (value ? '1' : '0'),
};
