import { type Helpers, helper } from './piece.js';

/** Days and times of the proleptic Gregorian calendar (ISO 8601, RFC 3339). */
export const moments: Helpers = {
  digits: helper(`/** The number that digits from one place to another are; NaN where one is no digit. */
function digits(text, from, to) {
  let number = 0;
  for (let index = from; index < to; index += 1) {
    const digit = text.charCodeAt(index) - 48;
    if (!(digit >= 0 && digit <= 9)) return NaN;
    number = number * 10 + digit;
  }
  return number;
}`),
  isDate: helper(
    `function isDate(text) {
  if (text.length !== 10 || text.charCodeAt(4) !== 45 || text.charCodeAt(7) !== 45) return false;
  const century = two(text, 0);
  const year = two(text, 2);
  const month = two(text, 5);
  const day = two(text, 8);
  if (century < 0 || year < 0 || century + year === 0 || month < 1 || month > 12 || day < 1) return false;
  return day <= 28 || day <= daysInMonth(century * 100 + year, month);
}`,
    'two',
    'daysInMonth',
  ),
  two: helper(`/** The number that two digits are; negative where one is no digit. */
function two(text, index) {
  const tens = text.charCodeAt(index) - 48;
  const ones = text.charCodeAt(index + 1) - 48;
  return tens >= 0 && tens <= 9 && ones >= 0 && ones <= 9 ? tens * 10 + ones : -1;
}`),
  daysInMonth: helper(`function daysInMonth(year, month) {
  if (month === 2) return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28;
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
}`),
  readDate: helper(
    `function readDate(raw) {
  if (raw === undefined || raw === null) return null;
  return typeof raw === 'string' && isDate(raw) ? raw : undefined;
}`,
    'isDate',
  ),
  timeOf:
    helper(`/** A time with seconds and so many digits of their fraction, or without ('none'); undefined for what is none. */
function timeOf(text, fraction, form) {
  const parts = /^([0-9]{2}):([0-9]{2})(?::([0-9]{2})(?:\\.([0-9]+))?)?$/.exec(text);
  if (parts === null || (fraction === 'none' ? parts[3] !== undefined : parts[3] === undefined && !form)) return undefined;
  const [, hour, minute, second = '00', finer = ''] = parts;
  if (hour > '23' || minute > '59' || second > '59' || finer.length > fraction) return undefined;
  if (fraction === 'none') return text;
  return hour + ':' + minute + ':' + second + (fraction === 0 ? '' : '.' + finer.padEnd(fraction, '0'));
}`),
  localOf: helper(
    `function localOf(text, fraction, form) {
  const date = text.slice(0, 10);
  const time = text[10] === 'T' && isDate(date) ? timeOf(text.slice(11), fraction, form) : undefined;
  return time === undefined ? undefined : date + 'T' + time;
}`,
    'isDate',
    'timeOf',
  ),
  instantOf: helper(
    `/** In UTC; the year is judged there. An offset of -00:00 means "unknown" and is refused. */
function instantOf(text, fraction, form) {
  const parts = /^(.*?)(?:Z|([+-])([0-9]{2}):([0-9]{2}))$/.exec(text);
  const local = parts === null ? undefined : localOf(parts[1], fraction, form);
  if (local === undefined) return undefined;
  const [, , sign, hours = '00', minutes = '00'] = parts;
  const offset = Number(hours) * 60 + Number(minutes);
  if (hours > '23' || minutes > '59' || (sign === '-' && offset === 0)) return undefined;
  if (offset === 0) return local + 'Z';
  const moment = new Date(local.slice(0, 19) + 'Z');
  moment.setUTCMinutes(moment.getUTCMinutes() + (sign === '-' ? offset : -offset));
  const shifted = moment.toISOString();
  return isDate(shifted.slice(0, 10)) ? shifted.slice(0, 19) + local.slice(19) + 'Z' : undefined;
}`,
    'localOf',
  ),
  readMoment: helper(`function readMoment(raw, of, fraction, form) {
  if (raw === undefined || raw === null) return null;
  return typeof raw === 'string' && raw.length < 100 ? of(raw, fraction, form) : undefined;
}`),
  fine: helper(`/** A moment with seconds and without the zeros that end their fraction. */
function fine(moment) {
  return moment === null ? null : moment.replace(/^[0-9]{2}:[0-9]{2}$/, '$&:00').replace(/Z$/, '').replace(/(\\.[0-9]*?)0+$/, '$1').replace(/\\.$/, '');
}`),
  dayNumber: helper(
    `function dayNumber(date) {
  const year = digits(date, 0, 4) - 1;
  const month = digits(date, 5, 7);
  let days = year * 365 + Math.floor(year / 4) - Math.floor(year / 100) + Math.floor(year / 400);
  for (let before = 1; before < month; before += 1) days += daysInMonth(year + 1, before);
  return days + digits(date, 8, 10);
}`,
    'digits',
    'daysInMonth',
  ),
  daysBetween: helper(
    `function daysBetween(from, to) {
  return from === null || to === null ? null : dayNumber(to) - dayNumber(from);
}`,
    'dayNumber',
  ),
  monthsBetween: helper(
    `/** Whole months, counted towards zero. */
function monthsBetween(from, to) {
  if (from === null || to === null) return null;
  const months = (digits(to, 0, 4) - digits(from, 0, 4)) * 12 + digits(to, 5, 7) - digits(from, 5, 7);
  const days = digits(to, 8, 10) - digits(from, 8, 10);
  return months > 0 && days < 0 ? months - 1 : months < 0 && days > 0 ? months + 1 : months;
}`,
    'digits',
  ),
  secondsBetween: helper(
    `/** Both are read in millionths first, as whole numbers: the quotient is the number nearest to the exact one. */
function secondsBetween(from, to) {
  return from === null || to === null ? null : (microseconds(to) - microseconds(from)) / 1e6;
}`,
    'microseconds',
  ),
  microseconds: helper(`/** Of a time of day since midnight. */
function microseconds(time) {
  const seconds = Number(time.slice(0, 2)) * 3600 + Number(time.slice(3, 5)) * 60 + Number(time.slice(6, 8));
  return seconds * 1e6 + Number(time.slice(9).padEnd(6, '0'));
}`),
  dayIn: helper(`/** The day of a moment in a time zone. */
function dayIn(moment, timeZone) {
  if (timeZone === 'UTC') return moment.slice(0, 10);
  const format = new Intl.DateTimeFormat('en-US', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' });
  const parts = {};
  for (const { type, value } of format.formatToParts(new Date(moment))) parts[type] = value;
  return parts.year.padStart(4, '0') + '-' + parts.month + '-' + parts.day;
}`),
  momentOf: helper(
    `function momentOf(clock) {
  if (clock === undefined) return new Date().toISOString();
  const moment = instantOf(clock.instant, 6, true);
  if (moment === undefined) throw new TypeError('The clock has no instant such as 2026-03-02T09:00:00Z.');
  return moment;
}`,
    'instantOf',
  ),
};
