import { exactText } from '../model/index.js';

/** The proleptic Gregorian calendar by arithmetic (ISO 8601); `Date.parse` rolls impossible days over. */

const TIME = /^([0-9]{2}):([0-9]{2})(?::([0-9]{2})(?:\.([0-9]+))?)?$/;

/** Days in a month of a year. */
export function daysInMonth(year: number, month: number): number {
  if (month === 2) return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28;
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
}

/** True for a real day of the years 0001 to 9999, spelled `YYYY-MM-DD`. */
export function isRealDate(text: string): boolean {
  if (text.length !== 10 || text[4] !== '-' || text[7] !== '-') return false;
  const [year, month, day] = [numberIn(text, 0, 4), numberIn(text, 5, 7), numberIn(text, 8, 10)];
  return year >= 1 && month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month);
}

/** The number that digits in a text write; -1 where there is anything else. By hand, as dates are asked about very often. */
function numberIn(text: string, from: number, to: number): number {
  let number = 0;
  for (let at = from; at < to; at += 1) {
    const digit = text.charCodeAt(at) - 0x30;
    if (!(digit >= 0 && digit <= 9)) return -1;
    number = number * 10 + digit;
  }
  return number;
}

/** The whole part of a number, of two digits. */
function twoDigits(part: number): string {
  return part < 10 ? `0${Math.floor(part)}` : String(Math.floor(part));
}

/** The days since 0001-01-01 of a real day. */
function dayNumber(date: string): number {
  const year = numberIn(date, 0, 4) - 1;
  const last = numberIn(date, 5, 7);
  let days = year * 365 + Math.floor(year / 4) - Math.floor(year / 100) + Math.floor(year / 400);
  for (let month = 1; month < last; month++) days += daysInMonth(year + 1, month);
  return days + numberIn(date, 8, 10) - 1;
}

/** The days of 400 years, after which the calendar begins anew. */
const CYCLE = 146_097;

/** The day so many days later (or earlier); null beyond the years 0001 to 9999, and for what is no real day. */
export function addDays(date: string, days: number): string | null {
  if (!isRealDate(date)) return null;
  const number = dayNumber(date) + days;
  const cycles = Math.floor(number / CYCLE);
  let rest = number - cycles * CYCLE;
  // The last day of a century or of a leap year would begin one too many.
  const centuries = Math.min(Math.floor(rest / 36_524), 3);
  rest -= centuries * 36_524;
  const fours = Math.floor(rest / 1_461);
  rest -= fours * 1_461;
  const years = Math.min(Math.floor(rest / 365), 3);
  rest -= years * 365;
  const year = 400 * cycles + 100 * centuries + 4 * fours + years + 1;
  if (year < 1 || year > 9999) return null;
  let month = 1;
  for (; rest >= daysInMonth(year, month); month += 1) rest -= daysInMonth(year, month);
  return `${String(year).padStart(4, '0')}-${twoDigits(month)}-${twoDigits(rest + 1)}`;
}

/** Days from one real day to another; negative where the second is earlier. */
export function daysBetween(from: string, to: string): number {
  return dayNumber(to) - dayNumber(from);
}

/** Whole months from one real day to another, counted towards zero: 31 January to 28 February is none. */
export function monthsBetween(from: string, to: string): number {
  const month = (date: string) => Number(date.slice(0, 4)) * 12 + Number(date.slice(5, 7));
  const months = month(to) - month(from);
  const day = (date: string) => Number(date.slice(8, 10));
  if (months > 0 && day(to) < day(from)) return months - 1;
  return months < 0 && day(to) > day(from) ? months + 1 : months;
}

/** Seconds from one canonical time of day to another; negative where the second is earlier. A fraction makes it decimal text. */
export function secondsBetween(from: string, to: string): number | string {
  const difference = microsecondsOf(to) - microsecondsOf(from);
  if (difference % 1_000_000 === 0) return difference / 1_000_000;
  return exactText({ digits: BigInt(difference), scale: 6 });
}

function microsecondsOf(time: string): number {
  const seconds = Number(time.slice(0, 2)) * 3600 + Number(time.slice(3, 5)) * 60 + Number(time.slice(6, 8));
  return seconds * 1_000_000 + Number(time.slice(9).padEnd(6, '0'));
}

/** How fine a time is: the digits of its second's fraction, or `none` where it has no seconds. */
export type Seconds = number | 'none';

/**
 * A time of day in its canonical form: seconds, then exactly so many fraction digits, or neither; null for what is none.
 * `24:00` and a 60th second are refused.
 *
 * @param needsSeconds false where the seconds may be left out, as time controls do where they are zero
 */
export function canonicalTime(text: string, fraction: Seconds, needsSeconds: boolean): string | null {
  const parts = TIME.exec(text);
  if (parts === null) return null;
  const [, hour = '', minute = '', second, digits = ''] = parts;
  if (fraction === 'none') return second === undefined && Number(hour) <= 23 && Number(minute) <= 59 ? text : null;
  if (second === undefined && needsSeconds) return null;
  if (Number(hour) > 23 || Number(minute) > 59 || Number(second ?? 0) > 59 || digits.length > fraction) return null;
  return `${hour}:${minute}:${second ?? '00'}${fraction === 0 ? '' : `.${digits.padEnd(fraction, '0')}`}`;
}

/** A day and a time in canonical form, `YYYY-MM-DDTHH:MM:SS` and the fraction; null for what is none. */
export function canonicalDateTime(text: string, fraction: Seconds, needsSeconds: boolean): string | null {
  const date = text.slice(0, 10);
  const time = canonicalTime(text.slice(11), fraction, needsSeconds);
  return text[10] === 'T' && time !== null && isRealDate(date) ? `${date}T${time}` : null;
}

/**
 * An instant in canonical form, in UTC with `Z`; null for what is none, and for one whose year in UTC is not of 0001 to
 * 9999. The offset is `Z` or `±hh:mm` (RFC 3339); `-00:00`, which means "unknown", is refused.
 */
export function canonicalInstant(text: string, fraction: Seconds, needsSeconds: boolean): string | null {
  const parts = /^(.*?)(?:Z|([+-])([0-9]{2}):([0-9]{2}))$/.exec(text);
  if (parts === null) return null;
  const [, local = '', sign, hours = '0', minutes = '0'] = parts;
  const moment = canonicalDateTime(local, fraction, needsSeconds);
  if (moment === null || Number(hours) > 23 || Number(minutes) > 59) return null;
  const offset = Number(hours) * 60 + Number(minutes);
  if (sign === '-' && offset === 0) return null;
  const minuteOfDay = Number(moment.slice(11, 13)) * 60 + Number(moment.slice(14, 16));
  const shifted = minuteOfDay + (sign === '-' ? offset : -offset);
  const date = addDays(moment.slice(0, 10), Math.floor(shifted / 1440));
  if (date === null) return null;
  const within = ((shifted % 1440) + 1440) % 1440;
  return `${date}T${twoDigits(Math.floor(within / 60))}:${twoDigits(within % 60)}${moment.slice(16)}Z`;
}

/** The time so many seconds later on the same day, with seconds where it has them; null past its ends. */
export function addSeconds(time: string, seconds: number): string | null {
  const at = Number(time.slice(0, 2)) * 3600 + Number(time.slice(3, 5)) * 60 + Number(time.slice(6, 8)) + seconds;
  if (at < 0 || at >= 86400) return null;
  const minutes = `${twoDigits(at / 3600)}:${twoDigits((at / 60) % 60)}`;
  return time.length === 5 ? minutes : `${minutes}:${twoDigits(at % 60)}${time.slice(8)}`;
}

/** A day and a time so many seconds later (or earlier), with what stands behind the seconds kept; null past the years. */
export function addSecondsToDateTime(moment: string, seconds: number): string | null {
  const instant = new Date(`${moment.slice(0, 19)}Z`);
  instant.setUTCSeconds(instant.getUTCSeconds() + seconds);
  if (Number.isNaN(instant.getTime())) return null;
  const text = instant.toISOString().slice(0, 19);
  return isRealDate(text.slice(0, 10)) && text.length === 19 ? `${text}${moment.slice(19)}` : null;
}
