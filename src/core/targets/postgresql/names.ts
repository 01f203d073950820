import { quoteName } from '../sql/index.js';

/** What a reader of the file could not see, or take for a plain space. */
const INVISIBLE = /[\p{Cc}\p{Cf}\p{Z}\ufffd]/gu;

/**
 * Spelling of names and literals. One with a backslash or with something invisible is written `E''`, which reads the
 * same whatever `standard_conforming_strings` says.
 */
export const spelling = {
  name: quoteName,
  text(text: string): string {
    const quoted = text.replaceAll("'", "''");
    const escaped = quoted
      .replaceAll('\\', '\\\\')
      .replace(INVISIBLE, (character) => (character === ' ' ? ' ' : escape(character.codePointAt(0) ?? 0)));
    return escaped === quoted ? `'${quoted}'` : `E'${escaped}'`;
  },
  truth: (value: boolean) => String(value),
};

function escape(point: number): string {
  return point > 0xffff ? `\\U${point.toString(16).padStart(8, '0')}` : `\\u${point.toString(16).padStart(4, '0')}`;
}
