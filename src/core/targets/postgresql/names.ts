import { quoteName } from '../sql/index.js';

/** What a reader of the file could not see, or take for a plain space. */
const INVISIBLE = /[\p{Cc}\p{Cf}\p{Z}\ufffd]/gu;

/**
 * Spelling of names and literals. One with a backslash or with something invisible is written `E''`, which reads the
 * same whatever `standard_conforming_strings` says.
 */
export function quoteText(text: string): string {
  const quoted = text.replaceAll("'", "''");
  const escapedText = quoted
    .replaceAll('\\', '\\\\')
    .replace(INVISIBLE, (character) => (character === ' ' ? ' ' : escaped(character.codePointAt(0) ?? 0)));
  return escapedText === quoted ? `'${quoted}'` : `E'${escapedText}'`;
}

export const spelling = { name: quoteName, text: quoteText, truth: (value: boolean) => String(value) };

function escaped(point: number): string {
  return point > 0xffff ? `\\U${point.toString(16).padStart(8, '0')}` : `\\u${point.toString(16).padStart(4, '0')}`;
}
