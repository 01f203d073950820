import { type Helpers, helper } from './piece.js';

/** Violations, which are only made where something is broken. */
export const telling: Helpers = {
  plain: helper('const plain = {};'),
  fail: helper(`function fail(violations, pointer, rule, message) {
  const violation = { pointer, rule, message };
  if (violations === null) return [violation];
  violations.push(violation);
  return violations;
}`),
  refuse: helper(
    `/** What was too much to be read, or could not be. */
function refuse(violations, over, pointer, rule, message) {
  return over ? fail(violations, pointer, limitsRule, limitsMessage) : fail(violations, pointer, rule, message);
}`,
    'fail',
  ),
  answered: helper(
    `/** Asks what only the server can be asked, on fields with no other fault. */
async function answered(checked, asked, messages) {
  const faulty = new Set(checked.ok ? [] : checked.violations.map(({ pointer }) => pointer));
  const clean = asked.filter(({ of }) => !of.some((pointer) => faulty.has(pointer)));
  const holds = await Promise.all(clean.map(async ({ ask }) => ask()));
  let violations = checked.ok ? null : checked.violations;
  clean.forEach(({ pointer, rule, message }, index) => {
    if (!holds[index]) violations = fail(violations, pointer, rule, message);
  });
  return violations === null ? checked : refused(violations, messages);
}`,
    'fail',
    'refused',
  ),
  lookUpIn: helper(`/** A function that the server was given to ask. */
function lookUpIn(how, rule) {
  const asked = how.lookUps !== undefined && Object.hasOwn(how.lookUps, rule) ? how.lookUps[rule] : null;
  if (typeof asked !== 'function') throw new TypeError('checkAsync needs a function: lookUps: { ' + rule + ' }');
  return asked;
}`),
  isLong: helper(`/** Longer than anybody reads. */
function isLong(raw, most) {
  return typeof raw === 'string' && raw.length > most;
}`),
  isLongOrStacked: helper(
    `/** Longer than anybody reads, or with more marks on a character. */
function isLongOrStacked(raw, most) {
  return typeof raw === 'string' && (raw.length > most || stacked.test(raw));
}`,
    'stacked',
  ),
  refused: helper(
    `function refused(violations, messages) {
  if (messages !== undefined) {
    for (const one of violations) {
      if (Object.hasOwn(messages, one.rule)) one.message = messages[one.rule];
    }
  }
  return { ok: false, violations };
}`,
  ),
  isRecord: helper(`function isRecord(raw) {
  return typeof raw === 'object' && raw !== null && !Array.isArray(raw);
}`),
  ownKeys: helper(`/** JSON makes plain records; of any other, only its own keys count. */
function ownKeys(record) {
  return Object.getPrototypeOf(record) === Object.prototype ? record : { ...record };
}`),
  keysIn: helper(`function keysIn(record) {
  let count = 0;
  for (const _ in record) count += 1;
  return count;
}`),
  own: helper(`function own(record, key) {
  return Object.hasOwn(record, key) ? record[key] : undefined;
}`),
  pointerTo: helper(`/** The JSON Pointer (RFC 6901) of a key. */
function pointerTo(key) {
  return '/' + key.replaceAll('~', '~0').replaceAll('/', '~1');
}`),
  asText: helper(`function asText(value) {
  return value === null ? null : String(value);
}`),
  none: helper('const none = [];'),
  listOf: helper(
    `function listOf(list) {
  return list === null || list === undefined ? none : list;
}`,
    'none',
  ),
  at: helper(`/** What is within a record that may be absent (null) or not read (undefined). */
function at(record, key) {
  return record === undefined || record === null ? record : record[key];
}`),
};
