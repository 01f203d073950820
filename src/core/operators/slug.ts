/** U+0300 to U+036F: what NFD takes off a letter with an accent. */
const MARKS = /[\u0300-\u036f]/g;

/**
 * A text as part of an address: accents taken off (Unicode NFD), A–Z made small, and every run of other characters than
 * a–z and 0–9 made one hyphen, with none at the ends. Empty where nothing is left.
 */
export function slugOf(text: string): string {
  const plain = text
    .normalize('NFD')
    .replace(MARKS, '')
    .replace(/[A-Z]/g, (letter) => letter.toLowerCase());
  return plain.replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '');
}
