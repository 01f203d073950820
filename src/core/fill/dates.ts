import { addDays, type KnownField } from '../kinds/index.js';
import type { Random } from '../model/index.js';
import { spoken } from './roles.js';

const DAYS_A_YEAR = 365;

/** Days that say how long something has been so. */
const SINCE = /\b(?:since|joined|founded|opened|registered|hired)\b/;
const BORN = /\b(?:birth|born|birthday)\b/;

/**
 * The days of one record: each a little later than the one before it, as they are declared; but a birthday is that of a
 * grown-up, and since when something has been so is some years ago. Within the field's own limits.
 */
export class Dates {
  readonly #random: Random;
  #next: string;

  constructor(first: string, random: Random) {
    this.#next = first;
    this.#random = random;
  }

  dayFor(field: KnownField): string {
    const name = spoken(field.path.split('.').at(-1) ?? '');
    if (BORN.test(name)) return this.#within(field, this.#earlier(18 * DAYS_A_YEAR, 50 * DAYS_A_YEAR));
    if (SINCE.test(name)) return this.#within(field, this.#earlier(30, 9 * DAYS_A_YEAR));
    const day = this.#within(field, this.#next);
    this.#next = addDays(day, 1 + this.#random.below(4)) ?? day;
    return day;
  }

  #earlier(least: number, span: number): string {
    return addDays(this.#next, -least - this.#random.below(span)) ?? this.#next;
  }

  /** The day, or one at random between the limits where it is not within them. */
  #within({ facets: { min, max } }: KnownField, day: string): string {
    const isEarly = typeof min === 'string' && day < min;
    const isLate = typeof max === 'string' && day > max;
    if (isEarly) return this.#between(min, typeof max === 'string' ? max : null, 1);
    return isLate ? this.#between(max, typeof min === 'string' ? min : null, -1) : day;
  }

  #between(from: string, end: string | null, by: 1 | -1): string {
    const day = addDays(from, by * this.#random.below(DAYS_A_YEAR)) ?? from;
    const isBeyond = end !== null && (by === 1 ? day > end : day < end);
    return isBeyond ? from : day;
  }
}
