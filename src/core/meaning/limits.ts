import type { Field } from '../model/index.js';

/** What protects whoever reads a record: more of anything is refused unread, as `<ruleset>.limits` where it stands. */
const MOST_UNITS = 1_000_000;
const MOST_ITEMS = 10_000;
const MOST_KEYS = 1_000;
const MOST_NAMES = 100_000;

/** The most UTF-16 units of a text: twice what its field may have, if that is more. */
export function mostUnits({ facets }: Field): number {
  return Math.max(MOST_UNITS, 2 * Number(facets.maxLength ?? 0));
}

/**
 * Unicode's Stream-Safe Text Format (UAX #15, section 13) has no more than 30 marks in succession: normal forms sort them, and
 * take a time that grows with the square of their number.
 */
const STACKED_MARKS = /\p{M}{31}/u;

/** The text is larger than anybody reads, or has more marks on one character than a field in form C reads. */
export function isOverLimits(field: Field, text: string): boolean {
  return text.length > mostUnits(field) || (field.facets.unicode === 'NFC' && STACKED_MARKS.test(text));
}

/** The most items of a list. */
export function mostItems({ facets }: Field): number {
  return Math.max(MOST_ITEMS, Number(facets.maxItems ?? 0));
}

/** The most keys of a record. */
export function mostKeys(fields: object): number {
  return Math.max(MOST_KEYS, Object.keys(fields).length);
}

/** The most names of a form, whose lists have a name each item. */
export const mostNames = MOST_NAMES;
