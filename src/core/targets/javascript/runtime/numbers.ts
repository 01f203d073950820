import { type Helpers, helper } from './piece.js';

/** Decimal arithmetic that never rounds: native where it is exact, otherwise in whole numbers of any size. */
export const numbers: Helpers = {
  exactOf: helper(`/** Digits, and how many of them are behind the point. */
function exactOf(value) {
  const [, sign, whole, fraction = '', exponent = '0'] = /^(-?)([0-9]+)(?:\\.([0-9]+))?(?:e([+-]?[0-9]+))?$/.exec(String(value));
  const digits = BigInt(sign + whole + fraction);
  const scale = fraction.length - Number(exponent);
  return scale < 0 ? [digits * 10n ** BigInt(-scale), 0] : [digits, scale];
}`),
  aligned: helper(
    `function aligned(a, b) {
  const [left, leftScale] = exactOf(a);
  const [right, rightScale] = exactOf(b);
  const scale = Math.max(leftScale, rightScale);
  return [left * 10n ** BigInt(scale - leftScale), right * 10n ** BigInt(scale - rightScale), scale];
}`,
    'exactOf',
  ),
  exactText: helper(`function exactText(digits, scale) {
  const text = String(digits < 0n ? -digits : digits).padStart(scale + 1, '0');
  const fraction = text.slice(text.length - scale).replace(/0+$/, '');
  const whole = (digits < 0n ? '-' : '') + text.slice(0, text.length - scale);
  return scale === 0 || fraction === '' ? whole : whole + '.' + fraction;
}`),
  order: helper(
    `/** Negative, zero or positive as a number is less than, equal to or more than another; NaN where one is absent. */
function order(a, b) {
  if (a === null || b === null) return NaN;
  if (typeof a === 'number' && typeof b === 'number') return a < b ? -1 : a > b ? 1 : 0;
  const [left, right] = aligned(a, b);
  return left < right ? -1 : left > right ? 1 : 0;
}`,
    'aligned',
  ),
  plus: helper(
    `function plus(a, b) {
  if (a === null || b === null) return null;
  const sum = a + b;
  if (Number.isSafeInteger(a) && Number.isSafeInteger(b) && Number.isSafeInteger(sum)) return sum;
  const [left, right, scale] = aligned(a, b);
  return exactText(left + right, scale);
}`,
    'aligned',
    'exactText',
  ),
  minus: helper(
    `function minus(a, b) {
  if (a === null || b === null) return null;
  const difference = a - b;
  if (Number.isSafeInteger(a) && Number.isSafeInteger(b) && Number.isSafeInteger(difference)) return difference;
  const [left, right, scale] = aligned(a, b);
  return exactText(left - right, scale);
}`,
    'aligned',
    'exactText',
  ),
  times: helper(
    `function times(a, b) {
  if (a === null || b === null) return null;
  const product = a * b;
  if (Number.isSafeInteger(a) && Number.isSafeInteger(b) && Number.isSafeInteger(product)) return product + 0;
  const [left, leftScale] = exactOf(a);
  const [right, rightScale] = exactOf(b);
  return exactText(left * right, leftScale + rightScale);
}`,
    'exactOf',
    'exactText',
  ),
  isMultiple: helper(
    `function isMultiple(value, step) {
  const [digits, unit] = aligned(value, step);
  return digits % unit === 0n;
}`,
    'aligned',
  ),
  hasScale: helper(`/** At most so many digits behind the point; \`unit\` is ten to their power. */
function hasScale(value, scale, unit) {
  if (typeof value === 'number') {
    const units = value * unit;
    if (units < 1e15 && units > -1e15) return Math.round(units) / unit === value;
  }
  const [number, exponent = '0'] = String(value).split('e');
  const point = number.indexOf('.');
  return (point === -1 ? 0 : number.length - point - 1) - Number(exponent) <= scale;
}`),
  total: helper(
    `/** The sum over a list; null where a part is absent. */
function total(list, part) {
  let sum = 0;
  for (const item of list) sum = plus(sum, part(item));
  return sum;
}`,
    'plus',
  ),
  countOf: helper(`function countOf(list, holds) {
  let count = 0;
  for (const item of list) if (holds(item)) count += 1;
  return count;
}`),
  firstPlaces: helper(
    `const places = new WeakMap();

/** Where each value of a list is first, in a field of its items if there is a key; as far as the items before an index. */
function firstPlaces(list, index, key = '') {
  if (!places.has(list)) places.set(list, new Map());
  const ofList = places.get(list);
  if (!ofList.has(key)) ofList.set(key, { first: new Map(), read: 0 });
  const found = ofList.get(key);
  for (; found.read < index; found.read += 1) {
    const value = key === '' ? list[found.read] : at(list[found.read], key);
    if (!found.first.has(value)) found.first.set(value, found.read);
  }
  return found.first;
}`,
    'at',
  ),
  repeats: helper(
    `/** An item before has the same value, in a field if there is a key. */
function repeats(list, index, value, key) {
  const first = firstPlaces(list, index, key).get(value);
  return first !== undefined && first < index;
}`,
    'firstPlaces',
  ),
  slugOf: helper(
    `function slugOf(text) {
  if (text === null) return null;
  const plain = lowered(
    text.replace(/[\\u0080-\\u{10ffff}]/gu, (character) => character.normalize('NFD')).replace(/[\\u0300-\\u036f]/g, ''),
  );
  return plain.replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '') || null;
}`,
    'lowered',
  ),
};
