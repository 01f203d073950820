import { type Helpers, helper } from './piece.js';

/** From what came in to a canonical value: undefined is refused, null is absent. */
export const reading: Helpers = {
  most: helper('const most = 1000000;'),
  readText: helper(
    `function readText(raw, limit = most) {
  if (typeof raw !== 'string') return raw === undefined || raw === null ? null : undefined;
  if (raw.length > limit) return undefined;
  const text = raw.trim();
  return text === '' ? null : text;
}`,
    'most',
  ),
  readPadded: helper(
    `function readPadded(raw, limit = most) {
  if (typeof raw !== 'string') return raw === undefined || raw === null ? null : undefined;
  if (raw.length > limit) return undefined;
  return raw === '' ? null : raw;
}`,
    'most',
  ),
  withLines: helper(`function withLines(raw) {
  return typeof raw === 'string' && raw.includes('\\r') ? raw.replace(/\\r\\n?/g, '\\n') : raw;
}`),
  collapsed: helper(`function collapsed(text) {
  return typeof text === 'string' ? text.replace(/\\s+/g, ' ') : text;
}`),
  lowered: helper(`function lowered(text) {
  return typeof text === 'string' ? text.replace(/[A-Z]+/g, (letters) => letters.toLowerCase()) : text;
}`),
  uppered: helper(`function uppered(text) {
  return typeof text === 'string' ? text.replace(/[a-z]+/g, (letters) => letters.toUpperCase()) : text;
}`),
  stacked: helper(`/** More marks in succession than Unicode's stream-safe format has: to sort them takes long. */
const stacked = /\\p{M}{31}/u;`),
  composed: helper(
    `function composed(text) {
  if (typeof text !== 'string') return text;
  return stacked.test(text) ? undefined : text.normalize('NFC');
}`,
    'stacked',
  ),
  measure:
    helper(`/** The length in code points; NaN for U+0000, lone surrogates, and U+FFFD, which stands where text was damaged. */
function measure(text) {
  if (text === undefined || text === null) return 0;
  let length = text.length;
  for (let index = 0; index < text.length; index += 1) {
    const unit = text.charCodeAt(index);
    if (unit > 0 && unit < 0xd800) continue;
    if (unit === 0 || unit === 0xfffd) return NaN;
    if (unit > 0xdfff) continue;
    const next = index + 1 < text.length ? text.charCodeAt(index + 1) : 0;
    if (unit > 0xdbff || next < 0xdc00 || next > 0xdfff) return NaN;
    index += 1;
    length -= 1;
  }
  return length;
}`),
  lengthOf: helper(`function lengthOf(text) {
  if (text === null) return null;
  let length = 0;
  for (const _ of text) length += 1;
  return length;
}`),
  plainZero: helper(`/** Negative zero is zero; any other number is the one that came in, not a copy. */
function plainZero(number) {
  return number === 0 ? 0 : number;
}`),
  plainInteger: helper('const plainInteger = /^-?(?:0|[1-9][0-9]*)$/;'),
  readInteger: helper(
    `function readInteger(raw, form) {
  if (raw === undefined || raw === null) return null;
  if (form && (typeof raw !== 'string' || !plainInteger.test(raw))) return undefined;
  const number = form ? Number(raw) : raw;
  return Number.isSafeInteger(number) ? plainZero(number) : undefined;
}`,
    'plainInteger',
    'plainZero',
  ),
  plainDecimal: helper('const plainDecimal = /^-?(?:0|[1-9][0-9]*)(?:\\.[0-9]+)?$/;'),
  decimalText: helper(
    `/** Decimal text without what adds nothing; undefined for what is none. */
function decimalText(raw) {
  if (typeof raw !== 'string' || raw.length > 400 || !plainDecimal.test(raw)) return undefined;
  const text = raw.includes('.') ? raw.replace(/\\.?0+$/, '') : raw;
  return text === '-0' ? '0' : text;
}`,
    'plainDecimal',
  ),
  readDecimal: helper(
    `function readDecimal(raw, form) {
  if (raw === undefined || raw === null) return null;
  if (!form) return typeof raw === 'number' && Number.isFinite(raw) ? plainZero(raw) : undefined;
  const text = decimalText(raw);
  if (text === undefined) return undefined;
  const number = Number(text);
  return plainNumber(number) === text ? number : undefined;
}`,
    'decimalText',
    'plainNumber',
    'plainZero',
  ),
  plainNumber: helper(`/** A number's shortest digits, without an exponent. */
function plainNumber(number) {
  const [digits, exponent] = String(number).split('e');
  if (exponent === undefined) return digits;
  const [, sign, whole, fraction = ''] = /^(-?)(\\d)(?:\\.(\\d+))?$/.exec(digits);
  const places = Number(exponent);
  if (places < 0) return sign + '0.' + '0'.repeat(-places - 1) + whole + fraction;
  return sign + whole + fraction.padEnd(places, '0');
}`),
  readLongDecimal: helper(
    `function readLongDecimal(raw) {
  return raw === undefined || raw === null ? null : decimalText(raw);
}`,
    'decimalText',
  ),
  readCode: helper(
    `function readCode(raw) {
  if (raw === undefined || raw === null) return null;
  return typeof raw === 'string' && raw !== '' && raw.length <= most ? raw : undefined;
}`,
    'most',
  ),
  readBoolean: helper(`function readBoolean(raw, form, missing) {
  if (raw === undefined) return missing;
  if (raw === null) return null;
  if (!form) return typeof raw === 'boolean' ? raw : undefined;
  return raw === 'true' || raw === 'on' ? true : raw === 'false' ? false : undefined;
}`),
  readList: helper(`/** A list of its own, to be filled with what is read. */
function readList(raw, limit) {
  if (raw === undefined || raw === null) return [];
  return Array.isArray(raw) && raw.length <= limit ? raw.slice() : undefined;
}`),
  nothing: helper('const nothing = {};'),
  readRecord: helper(
    `function readRecord(raw, limit) {
  if (raw === undefined || raw === null) return nothing;
  return isRecord(raw) && keysIn(raw) <= limit ? ownKeys(raw) : undefined;
}`,
    'nothing',
    'isRecord',
    'keysIn',
    'ownKeys',
  ),
};
