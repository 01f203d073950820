/** U+0300 to U+036F: what NFD takes off a letter with an accent. */
const MARKS = /[\u0300-\u036f]/g;
const NOT_ASCII = /[\u0080-\u{10ffff}]/gu;

/**
 * A text as part of an address: accents taken off (Unicode NFD), A–Z made small, and every run of other characters than
 * a–z and 0–9 made one hyphen, with none at the ends. Empty where nothing is left.
 */
export function slugOf(text: string): string {
  // Each character by itself: the order of its marks does not matter here, and to sort them takes long.
  const plain = text
    .replace(NOT_ASCII, (character) => character.normalize('NFD'))
    .replace(MARKS, '')
    .replace(/[A-Z]/g, (letter) => letter.toLowerCase());
  return plain.replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '');
}
