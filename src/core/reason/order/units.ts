import {
  addDays,
  canonicalDateTime,
  canonicalInstant,
  canonicalTime,
  daysBetween,
  firstDate,
  lastDate,
  type Seconds,
} from '../../kinds/index.js';
import { type Domain, exactOf, exactText, type Value } from '../../model/index.js';

/** The domains whose values have an order that counts in steps. */
export type OrderedDomain = 'number' | 'date' | 'time' | 'instant' | 'local';

/** Digits of a second's fraction that are told apart. */
export const FINEST = 6;
const SECOND = 10n ** BigInt(FINEST);
const DAY = 86_400n * SECOND;

/** True for the domains whose values have an order. */
export function isOrdered(domain: Domain): domain is OrderedDomain {
  return ['number', 'date', 'time', 'instant', 'local'].includes(domain);
}

/** The least and the greatest value of a domain, in its unit; numbers have none by themselves. */
export function endsOf(domain: OrderedDomain): { readonly low: bigint | null; readonly high: bigint | null } {
  const days = BigInt(daysBetween(firstDate, lastDate));
  if (domain === 'number') return { low: null, high: null };
  if (domain === 'date') return { low: 0n, high: days };
  return { low: 0n, high: (domain === 'time' ? DAY : (days + 1n) * DAY) - 1n };
}

/** What a fraction of a second with so many digits counts in, in millionths. */
export function stepOf(fraction: Seconds): bigint {
  if (fraction === 'none') return 60n * SECOND;
  return 10n ** BigInt(FINEST - fraction);
}

/**
 * A value as a whole number of the domain's smallest unit: days from the first, millionths of a second, or a number's
 * last digit at `scale`. Null for what is no value of the domain.
 */
export function countOf(value: Value, domain: OrderedDomain, scale: number): bigint | null {
  if (domain === 'number') {
    const exact = exactOf(value);
    if (exact === null || exact.scale > scale) return null;
    return exact.digits * 10n ** BigInt(scale - exact.scale);
  }
  if (typeof value !== 'string') return null;
  if (domain === 'date') return BigInt(daysBetween(firstDate, value));
  const text = {
    time: canonicalTime,
    instant: canonicalInstant,
    local: canonicalDateTime,
  }[domain](value, FINEST, domain !== 'time');
  if (text === null) return null;
  return domain === 'time'
    ? ofTime(text)
    : BigInt(daysBetween(firstDate, text.slice(0, 10))) * DAY + ofTime(text.slice(11));
}

function ofTime(text: string): bigint {
  const [hours, minutes, seconds] = [text.slice(0, 2), text.slice(3, 5), text.slice(6, 8)].map(Number);
  const whole = BigInt(hours ?? 0) * 3600n + BigInt(minutes ?? 0) * 60n + BigInt(seconds ?? 0);
  return whole * SECOND + BigInt(text.slice(9, 9 + FINEST).padEnd(FINEST, '0'));
}

/** The other way: the value that so many units are, as text; a moment as fine as is wanted. */
export function spelled(count: bigint, domain: OrderedDomain, scale: number, fraction: Seconds): string {
  if (domain === 'number') return exactText({ digits: count, scale });
  if (domain === 'date') return dayText(count);
  const text =
    domain === 'time' ? timeText(count, fraction) : `${dayText(count / DAY)}T${timeText(count % DAY, fraction)}`;
  return domain === 'instant' ? `${text}Z` : text;
}

function dayText(days: bigint): string {
  const text = addDays(firstDate, Number(days));
  if (text === null) throw new Error(`no day has the number ${days}`);
  return text;
}

function timeText(count: bigint, fraction: Seconds): string {
  const two = (part: bigint) => String(part).padStart(2, '0');
  const seconds = count / SECOND;
  const digits = String(count % SECOND)
    .padStart(FINEST, '0')
    .slice(0, fraction === 'none' ? 0 : fraction);
  const minutes = `${two(seconds / 3600n)}:${two((seconds / 60n) % 60n)}`;
  if (fraction === 'none') return minutes;
  return `${minutes}:${two(seconds % 60n)}${fraction === 0 ? '' : `.${digits}`}`;
}
