// Made by echo-rule from rules/firing.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-d5b775035629eed20d7b45fcdcdea91ac8641032e2d2b1a63f87eceab0b2df23

/** What a page needs to know of the fields. */
export const fields = {
  tag: { label: 'Firing tag', required: true },
  kiln: { label: 'Kiln', required: true },
  potter: { label: 'Booked by', required: true },
  title: { label: 'What is fired', required: true },
  pieces: { label: 'Number of pieces', required: true },
  peak: { label: 'Peak temperature (°C)', required: true },
  glaze: { label: 'Glaze', required: true, choices: [['none', 'No glaze'], ['celadon', 'Celadon'], ['tenmoku', 'Tenmoku'], ['lustre', 'Lustre']] },
  vented: { label: 'Vent open', required: true },
  fee: { label: 'Fee paid', required: false },
  loadOn: { label: 'Loading day', required: true },
  collectOn: { label: 'Collection day', required: false },
  shelf: { label: 'Own shelf', required: false },
  'shelf.bay': { label: 'Bay', required: true },
  'shelf.level': { label: 'Level', required: true },
  helpers: { label: 'Helpers', required: true },
  'helpers[]': { label: 'Helper', required: true },
  notes: { label: 'Notes', required: false },
};

const plain = {};

function fail(violations, pointer, rule, message) {
  const violation = { pointer, rule, message };
  if (violations === null) return [violation];
  violations.push(violation);
  return violations;
}

/** What was too much to be read, or could not be. */
function refuse(violations, over, pointer, rule, message) {
  return over ? fail(violations, pointer, limitsRule, limitsMessage) : fail(violations, pointer, rule, message);
}

/** Longer than anybody reads. */
function isLong(raw, most) {
  return typeof raw === 'string' && raw.length > most;
}

function refused(violations, messages) {
  if (messages !== undefined) {
    for (const one of violations) {
      if (Object.hasOwn(messages, one.rule)) one.message = messages[one.rule];
    }
  }
  return { ok: false, violations };
}

function isRecord(raw) {
  return typeof raw === 'object' && raw !== null && !Array.isArray(raw);
}

/** JSON makes plain records; of any other, only its own keys count. */
function ownKeys(record) {
  return Object.getPrototypeOf(record) === Object.prototype ? record : { ...record };
}

function keysIn(record) {
  let count = 0;
  for (const _ in record) count += 1;
  return count;
}

/** The JSON Pointer (RFC 6901) of a key. */
function pointerTo(key) {
  return '/' + key.replaceAll('~', '~0').replaceAll('/', '~1');
}

/** What is within a record that may be absent (null) or not read (undefined). */
function at(record, key) {
  return record === undefined || record === null ? record : record[key];
}

const most = 1000000;

function readText(raw, limit = most) {
  if (typeof raw !== 'string') return raw === undefined || raw === null ? null : undefined;
  if (raw.length > limit) return undefined;
  const text = raw.trim();
  return text === '' ? null : text;
}

function withLines(raw) {
  return typeof raw === 'string' && raw.includes('\r') ? raw.replace(/\r\n?/g, '\n') : raw;
}

/** The length in code points; NaN for U+0000, lone surrogates, and U+FFFD, which stands where text was damaged. */
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
}

/** Negative zero is zero; any other number is the one that came in, not a copy. */
function plainZero(number) {
  return number === 0 ? 0 : number;
}

const plainInteger = /^-?(?:0|[1-9][0-9]*)$/;

function readInteger(raw, form) {
  if (raw === undefined || raw === null) return null;
  if (form && (typeof raw !== 'string' || !plainInteger.test(raw))) return undefined;
  const number = form ? Number(raw) : raw;
  return Number.isSafeInteger(number) ? plainZero(number) : undefined;
}

const plainDecimal = /^-?(?:0|[1-9][0-9]*)(?:\.[0-9]+)?$/;

/** Decimal text without what adds nothing; undefined for what is none. */
function decimalText(raw) {
  if (typeof raw !== 'string' || raw.length > 400 || !plainDecimal.test(raw)) return undefined;
  const text = raw.includes('.') ? raw.replace(/\.?0+$/, '') : raw;
  return text === '-0' ? '0' : text;
}

function readDecimal(raw, form) {
  if (raw === undefined || raw === null) return null;
  if (!form) return typeof raw === 'number' && Number.isFinite(raw) ? plainZero(raw) : undefined;
  const text = decimalText(raw);
  if (text === undefined) return undefined;
  const number = Number(text);
  return plainNumber(number) === text ? number : undefined;
}

/** A number's shortest digits, without an exponent. */
function plainNumber(number) {
  const [digits, exponent] = String(number).split('e');
  if (exponent === undefined) return digits;
  const [, sign, whole, fraction = ''] = /^(-?)(\d)(?:\.(\d+))?$/.exec(digits);
  const places = Number(exponent);
  if (places < 0) return sign + '0.' + '0'.repeat(-places - 1) + whole + fraction;
  return sign + whole + fraction.padEnd(places, '0');
}

function readCode(raw) {
  if (raw === undefined || raw === null) return null;
  return typeof raw === 'string' && raw !== '' && raw.length <= most ? raw : undefined;
}

function readBoolean(raw, form, missing) {
  if (raw === undefined) return missing;
  if (raw === null) return null;
  if (!form) return typeof raw === 'boolean' ? raw : undefined;
  return raw === 'true' || raw === 'on' ? true : raw === 'false' ? false : undefined;
}

/** A list of its own, to be filled with what is read. */
function readList(raw, limit) {
  if (raw === undefined || raw === null) return [];
  return Array.isArray(raw) && raw.length <= limit ? raw.slice() : undefined;
}

const nothing = {};

function readRecord(raw, limit) {
  if (raw === undefined || raw === null) return nothing;
  return isRecord(raw) && keysIn(raw) <= limit ? ownKeys(raw) : undefined;
}

function isDate(text) {
  if (text.length !== 10 || text.charCodeAt(4) !== 45 || text.charCodeAt(7) !== 45) return false;
  const century = two(text, 0);
  const year = two(text, 2);
  const month = two(text, 5);
  const day = two(text, 8);
  if (century < 0 || year < 0 || century + year === 0 || month < 1 || month > 12 || day < 1) return false;
  return day <= 28 || day <= daysInMonth(century * 100 + year, month);
}

/** The number that two digits are; negative where one is no digit. */
function two(text, index) {
  const tens = text.charCodeAt(index) - 48;
  const ones = text.charCodeAt(index + 1) - 48;
  return tens >= 0 && tens <= 9 && ones >= 0 && ones <= 9 ? tens * 10 + ones : -1;
}

function daysInMonth(year, month) {
  if (month === 2) return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28;
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
}

function readDate(raw) {
  if (raw === undefined || raw === null) return null;
  return typeof raw === 'string' && isDate(raw) ? raw : undefined;
}

/** At most so many digits behind the point; `unit` is ten to their power. */
function hasScale(value, scale, unit) {
  if (typeof value === 'number') {
    const units = value * unit;
    if (units < 1e15 && units > -1e15) return Math.round(units) / unit === value;
  }
  const [number, exponent = '0'] = String(value).split('e');
  const point = number.indexOf('.');
  return (point === -1 ? 0 : number.length - point - 1) - Number(exponent) <= scale;
}

const places = new WeakMap();

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
}

/** An item before has the same value, in a field if there is a key. */
function repeats(list, index, value, key) {
  const first = firstPlaces(list, index, key).get(value);
  return first !== undefined && first < index;
}

/** What no kind reads: several entries where one is wanted. */
const twice = [];

function entryOf(given, shape) {
  const entries = Array.isArray(given) ? given : given === undefined || given === null ? [] : [given];
  if (entries.length === 0) return undefined;
  if (entries.length > 1 && shape === 0) return twice;
  const entry = entries[entries.length - 1];
  return entry === '' ? null : typeof entry === 'string' ? entry : twice;
}

function readForm(input, shape, strange, shown) {
  const root = { entries: [], inner: new Map() };
  for (const name of Object.keys(input)) {
    const given = input[name];
    if (given === undefined || given === null || given.length === 0 && Array.isArray(given)) continue;
    const node = /^[^.[\]]+(?:\.[^.[\]]+|\[[^.[\]]*\])*$/.test(name) ? nodeAt(root, shape, stepsOf(name)) : null;
    if (node === null) strange.push(name);
    else for (const entry of Array.isArray(given) ? given : [given]) node.entries.push(entry);
  }
  const record = treeOf(shape, root);
  for (const path of shown) showField(shape, record, path.split('.'));
  return record;
}

function stepsOf(name) {
  const steps = name.split(/\.|\]?\[|\]$/);
  return name.endsWith(']') ? steps.slice(0, -1) : steps;
}

/** The place that steps lead to, made on the way; null where they lead to no field. */
function nodeAt(root, shape, steps) {
  const way = [];
  let last = steps.length;
  for (let index = 0; index < last; index += 1) {
    const step = steps[index];
    if (Array.isArray(shape)) {
      if (step === '' && index === last - 1 && typeof shape[0] === 'number') last = index;
      else if (/^(?:0|[1-9][0-9]{0,8})$/.test(step)) shape = shape[0];
      else return null;
    } else if (typeof shape === 'object' && Object.hasOwn(shape, step)) shape = shape[step];
    else return null;
    if (index < last) way.push(step);
  }
  let node = root;
  for (const step of way) {
    if (!node.inner.has(step)) node.inner.set(step, { entries: [], inner: new Map() });
    node = node.inner.get(step);
  }
  return node;
}

function isBlank(entry) {
  return typeof entry === 'string' && entry.trim() === '';
}

function treeOf(shape, { entries, inner }) {
  if (typeof shape === 'number') return entryOf(entries, shape);
  const more = entries.filter((entry) => !isBlank(entry));
  const nodes = [...inner];
  if (!Array.isArray(shape)) {
    return more.length > 0 ? more[0] : Object.fromEntries(nodes.map(([name, node]) => [name, treeOf(shape[name], node)]));
  }
  const [item] = shape;
  if (typeof item !== 'number' && more.length > 0) return more[0];
  const items = nodes.sort(([a], [b]) => a - b).map(([, node]) => node);
  for (const entry of more) items.push({ entries: [entry], inner: new Map() });
  return items.filter((node) => !isBlankNode(item, node)).map((node) => treeOf(item, node));
}

function isBlankNode(shape, { entries, inner }) {
  if (!entries.every((entry) => isBlank(entry) || (entry === 'false' && typeof shape === 'number' && shape > 0))) return false;
  return [...inner].every(([step, node]) => isBlankNode(Array.isArray(shape) ? shape[0] : shape[step], node));
}

/** A shown field that a form did not send: an unticked box, an empty list. */
function showField(shape, record, [name, ...rest]) {
  if (!Object.hasOwn(shape, name)) return;
  const inner = shape[name];
  if (typeof inner === 'object' && !Array.isArray(inner)) {
    if (record[name] !== undefined && !isRecord(record[name])) return;
    const within = { ...record[name] };
    for (const steps of rest.length > 0 ? [rest] : Object.keys(inner).map((one) => [one])) showField(inner, within, steps);
    if (Object.keys(within).length > 0) record[name] = within;
  } else if (!Object.hasOwn(record, name)) {
    if (Array.isArray(inner)) record[name] = [];
    else if (inner === 2) record[name] = 'false';
  }
}

/** Notes in `sent` what was sent itself (false), or with all that is in it (true). */
function merge(given, existing, shape, pointer, sent, form, known) {
  const record = { ...given };
  for (const name of Object.keys(shape)) {
    const inner = shape[name];
    const stored = isRecord(existing) && Object.hasOwn(existing, name) ? existing[name] : null;
    const value = Object.hasOwn(given, name) ? given[name] : undefined;
    const at = pointer + '/' + name;
    if (value === undefined) {
      if (stored !== null) record[name] = form ? asForm(stored) : stored;
    } else if (isRecord(inner.fields) && isRecord(value)) {
      sent.set(at, stored === null && inner.optional && known);
      record[name] = merge(value, stored, inner.fields, at, sent, form, known);
    } else {
      sent.set(at, true);
    }
  }
  return record;
}

/** A stored value as a form would send it. */
function asForm(value) {
  if (Array.isArray(value)) return value.map(asForm);
  if (typeof value !== 'object' || value === null) return value === null ? null : typeof value === 'number' ? plainNumber(value) : String(value);
  const record = {};
  for (const name of Object.keys(value)) record[name] = asForm(value[name]);
  return record;
}

function isSent(sent, pointer) {
  if (sent.has(pointer)) return true;
  for (const [one, whole] of sent) if (whole && pointer.startsWith(one + '/')) return true;
  return false;
}

/** Of violations, those of what was sent: of a rule over several fields, one was sent; all where nothing is known. */
function toldOf(violations, sent, known, subjects) {
  const told = violations.filter(({ pointer, rule }) => {
    if (!Object.hasOwn(subjects, rule)) return isSent(sent, pointer);
    const of = subjects[rule];
    return of === null || (known ? of.some((one) => isSent(sent, one)) : of.every((one) => isSent(sent, one)));
  });
  return told.length > 0 ? told : null;
}

function sentOnly(record, sent, pointer) {
  const only = {};
  for (const name of Object.keys(record)) {
    const at = pointer + '/' + name;
    if (isSent(sent, at)) only[name] = isRecord(record[name]) ? sentOnly(record[name], sent, at) : record[name];
  }
  return only;
}

const shape = { tag: 0, kiln: 0, potter: 0, title: 0, pieces: 0, peak: 0, glaze: 0, vented: 2, fee: 0, loadOn: 0, collectOn: 0, shelf: { bay: 0, level: 0 }, helpers: [0], notes: 0 };
const shapes = { tag: {}, kiln: {}, potter: {}, title: {}, pieces: {}, peak: {}, glaze: {}, vented: {}, fee: {}, loadOn: {}, collectOn: {}, shelf: { fields: { bay: {}, level: {} }, optional: true }, helpers: {}, notes: {} };
const subjects = { 'firing.type': null, 'firing.limits': null, 'firing.keys': null, 'firing.collectAfterLoading': ['/collectOn', '/loadOn'], 'firing.lustreNeedsVenting': ['/glaze', '/vented'], 'firing.celadonFiredHot': ['/glaze', '/peak'], 'firing.manyPiecesNeedHelp': ['/pieces', '/helpers'], 'firing.oneFiringPerDay': ['/kiln', '/loadOn'] };
const limitsRule = 'firing.limits';
const limitsMessage = 'This is more than can be taken in one go.';
const tagPattern = /^(?:[A-Z]{2}-[0-9]{4})$/u;
const kilnPattern = /^(?:K[0-9]{2})$/u;
const potterPattern = /^(?:[a-z][a-z0-9]*(?:-[a-z0-9]+)*)$/u;
const shelfBayPattern = /^(?:[A-F][0-9]?)$/u;
const declared_ = new Set(['bay', 'level']);
const declared__ = new Set(['tag', 'kiln', 'potter', 'title', 'pieces', 'peak', 'glaze', 'vented', 'fee', 'loadOn', 'collectOn', 'shelf', 'helpers', 'notes']);

/**
 * Checks one record: `{ ok: true, value }` with the canonical value, or `{ ok: false, violations }` with all that is
 * broken. `wire` is 'json' (as parsed), or 'form' (texts, or lists of texts where a name came several times).
 */
export function check(input, how = plain) {
  if (!isRecord(input)) return refused(fail(null, '', 'firing.type', 'Send one record: an object with fields.'), how.messages);
  const form = how.wire === 'form';
  let violations = null;
  let sent;
  let known = false;
  let strange = null;
  const count = keysIn(input);
  if (count > (form ? 100000 : 1000)) return refused(fail(null, '', 'firing.limits', 'This is more than can be taken in one go.'), how.messages);
  input = ownKeys(input);
  if (form) {
    strange = [];
    input = readForm(input, shape, strange, how.partial === true && how.shown !== undefined ? how.shown : []);
  } else if (how.partial === true) strange = Object.keys(input);
  if (how.partial === true) {
    sent = new Map();
    known = how.existing !== undefined && how.existing !== null;
    input = merge(input, how.existing, shapes, '', sent, form, known);
  }
  const rawTag = input.tag;
  const rawKiln = input.kiln;
  const rawPotter = input.potter;
  const rawTitle = input.title;
  const rawPieces = input.pieces;
  const rawPeak = input.peak;
  const rawGlaze = input.glaze;
  const rawVented = input.vented;
  const rawFee = input.fee;
  const rawLoadOn = input.loadOn;
  const rawCollectOn = input.collectOn;
  const rawShelf = input.shelf;
  const rawHelpers = input.helpers;
  const rawNotes = input.notes;
  if (strange === null && count !== (0 + (rawTag !== undefined) + (rawKiln !== undefined) + (rawPotter !== undefined) + (rawTitle !== undefined) + (rawPieces !== undefined) + (rawPeak !== undefined) + (rawGlaze !== undefined) + (rawVented !== undefined) + (rawFee !== undefined) + (rawLoadOn !== undefined) + (rawCollectOn !== undefined) + (rawShelf !== undefined) + (rawHelpers !== undefined) + (rawNotes !== undefined))) strange = Object.keys(input);
  if (strange !== null) {
    for (const key of strange) {
      if (!declared__.has(key)) violations = fail(violations, pointerTo(key), 'firing.keys', 'This field is not known here.');
    }
  }
  let tag = rawTag;
  if (!(typeof tag === 'string' && tagPattern.test(tag))) {
    tag = readText(rawTag);
    const tagSize = measure(tag);
    if (tagSize !== tagSize) tag = undefined;
    if (tag === undefined) {
      violations = refuse(violations, isLong(rawTag, 1000000), '/tag', 'firing.tag.type', 'Firing tag must be text, without null or damaged characters.');
    } else if (tag === null) {
      violations = fail(violations, '/tag', 'firing.tag.required', 'Firing tag is missing.');
    } else {
      if (tag.includes('\n') || tag.includes('\r')) violations = fail(violations, '/tag', 'firing.tag.lines', 'Firing tag must be on one line.');
      if (tag === rawTag || !tagPattern.test(tag)) violations = fail(violations, '/tag', 'firing.tag.pattern', 'Firing tag is not in the expected form.');
    }
  }
  let kiln = rawKiln;
  if (!(typeof kiln === 'string' && kilnPattern.test(kiln))) {
    kiln = readText(rawKiln);
    const kilnSize = measure(kiln);
    if (kilnSize !== kilnSize) kiln = undefined;
    if (kiln === undefined) {
      violations = refuse(violations, isLong(rawKiln, 1000000), '/kiln', 'firing.kiln.type', 'Kiln must be text, without null or damaged characters.');
    } else if (kiln === null) {
      violations = fail(violations, '/kiln', 'firing.kiln.required', 'Kiln is missing.');
    } else {
      if (kiln.includes('\n') || kiln.includes('\r')) violations = fail(violations, '/kiln', 'firing.kiln.lines', 'Kiln must be on one line.');
      if (kiln === rawKiln || !kilnPattern.test(kiln)) violations = fail(violations, '/kiln', 'firing.kiln.pattern', 'Kiln is not in the expected form.');
    }
  }
  let potter = rawPotter;
  if (!(typeof potter === 'string' && potter.length <= 20 && potter.length <= 1000000 && potterPattern.test(potter))) {
    potter = readText(rawPotter);
    const potterSize = measure(potter);
    if (potterSize !== potterSize) potter = undefined;
    if (potter === undefined) {
      violations = refuse(violations, isLong(rawPotter, 1000000), '/potter', 'firing.potter.type', 'Booked by must be text, without null or damaged characters.');
    } else if (potter === null) {
      violations = fail(violations, '/potter', 'firing.potter.required', 'Booked by is missing.');
    } else {
      if (potter.includes('\n') || potter.includes('\r')) violations = fail(violations, '/potter', 'firing.potter.lines', 'Booked by must be on one line.');
      if (potterSize > 20) violations = fail(violations, '/potter', 'firing.potter.maxLength', 'Booked by must have at most 20 characters.');
      if (potterSize <= 20 && (potter === rawPotter || !potterPattern.test(potter))) violations = fail(violations, '/potter', 'firing.potter.pattern', 'Booked by is not in the expected form.');
    }
  }
  let title = readText(rawTitle);
  let titleSize = measure(title);
  if (titleSize !== titleSize) title = undefined;
  if (title === undefined) {
    violations = refuse(violations, isLong(rawTitle, 1000000), '/title', 'firing.title.type', 'What is fired must be text, without null or damaged characters.');
  } else if (title === null) {
    violations = fail(violations, '/title', 'firing.title.required', 'What is fired is missing.');
  } else {
    if (title.includes('\n') || title.includes('\r')) violations = fail(violations, '/title', 'firing.title.lines', 'What is fired must be on one line.');
    if (titleSize < 3) violations = fail(violations, '/title', 'firing.title.minLength', 'What is fired must have at least 3 characters.');
    if (titleSize > 60) violations = fail(violations, '/title', 'firing.title.maxLength', 'What is fired must have at most 60 characters.');
  }
  let pieces = readInteger(rawPieces, form);
  if (pieces === undefined) {
    violations = refuse(violations, isLong(rawPieces, 1000000), '/pieces', 'firing.pieces.type', 'Number of pieces must be a whole number in plain digits.');
  } else if (pieces === null) {
    violations = fail(violations, '/pieces', 'firing.pieces.required', 'Number of pieces is missing.');
  } else {
    if (pieces < 1) violations = fail(violations, '/pieces', 'firing.pieces.min', 'Number of pieces must be 1 or more.');
    if (pieces > 40) violations = fail(violations, '/pieces', 'firing.pieces.max', 'Number of pieces must be 40 or less.');
  }
  let peak = readInteger(rawPeak, form);
  if (peak === undefined) {
    violations = refuse(violations, isLong(rawPeak, 1000000), '/peak', 'firing.peak.type', 'Peak temperature (°C) must be a whole number in plain digits.');
  } else if (peak === null) {
    violations = fail(violations, '/peak', 'firing.peak.required', 'Peak temperature (°C) is missing.');
  } else {
    if (peak < 600) violations = fail(violations, '/peak', 'firing.peak.min', 'Peak temperature (°C) must be 600 or more.');
    if (peak > 1320) violations = fail(violations, '/peak', 'firing.peak.max', 'Peak temperature (°C) must be 1320 or less.');
  }
  let glaze = readCode(rawGlaze);
  if (glaze === undefined) {
    violations = refuse(violations, isLong(rawGlaze, 1000000), '/glaze', 'firing.glaze.type', 'Glaze must be the code of a choice.');
  } else if (glaze === null) {
    violations = fail(violations, '/glaze', 'firing.glaze.required', 'Glaze is missing.');
  } else if (glaze !== 'none' && glaze !== 'celadon' && glaze !== 'tenmoku' && glaze !== 'lustre') {
    violations = fail(violations, '/glaze', 'firing.glaze.enumeration', 'Glaze must be one of: No glaze, Celadon, Tenmoku, Lustre.');
  }
  let vented = readBoolean(rawVented, form, form ? false : null);
  if (vented === undefined) {
    violations = refuse(violations, isLong(rawVented, 1000000), '/vented', 'firing.vented.type', 'Vent open must be true or false.');
  } else if (vented === null) {
    violations = fail(violations, '/vented', 'firing.vented.required', 'Vent open is missing.');
  }
  let fee = readDecimal(rawFee, form);
  if (fee === undefined) {
    violations = refuse(violations, isLong(rawFee, 1000000), '/fee', 'firing.fee.type', 'Fee paid must be a number in plain digits, with a point before the fraction.');
  } else if (fee !== null) {
    if (fee >= 1000 || fee <= -1000) violations = fail(violations, '/fee', 'firing.fee.precision', 'Fee paid must have at most 3 digits before the point.');
    if (!hasScale(fee, 2, 100)) violations = fail(violations, '/fee', 'firing.fee.scale', 'Fee paid must have at most 2 digits after the point.');
    if (fee < 0) violations = fail(violations, '/fee', 'firing.fee.min', 'Fee paid must be 0 or more.');
    if (fee > 500) violations = fail(violations, '/fee', 'firing.fee.max', 'Fee paid must be 500 or less.');
  }
  let loadOn = readDate(rawLoadOn);
  if (loadOn === undefined) {
    violations = refuse(violations, isLong(rawLoadOn, 1000000), '/loadOn', 'firing.loadOn.type', 'Loading day must be a real day, written YYYY-MM-DD.');
  } else if (loadOn === null) {
    violations = fail(violations, '/loadOn', 'firing.loadOn.required', 'Loading day is missing.');
  }
  let collectOn = readDate(rawCollectOn);
  if (collectOn === undefined) violations = refuse(violations, isLong(rawCollectOn, 1000000), '/collectOn', 'firing.collectOn.type', 'Collection day must be a real day, written YYYY-MM-DD.');
  let shelfBay, shelfBaySize, shelfLevel;
  let shelfRecord = readRecord(rawShelf, 1000);
  let shelfAbsent = false;
  if (shelfRecord !== undefined) {
    shelfBay = readText(shelfRecord.bay);
    shelfBaySize = measure(shelfBay);
    if (shelfBaySize !== shelfBaySize) shelfBay = undefined;
    shelfLevel = readInteger(shelfRecord.level, form);
    shelfAbsent = shelfBay === null && shelfLevel === null;
  }
  if (shelfRecord === undefined) {
    violations = refuse(violations, isRecord(rawShelf), '/shelf', 'firing.shelf.type', 'Own shelf must be a group of fields.');
  } else {
    if (keysIn(shelfRecord) !== (0 + (shelfRecord.bay !== undefined) + (shelfRecord.level !== undefined))) {
      for (const key of Object.keys(shelfRecord)) {
        if (!declared_.has(key)) violations = fail(violations, `/shelf${pointerTo(key)}`, 'firing.keys', 'This field is not known here.');
      }
    }
    if (!shelfAbsent) {
      if (shelfBay === undefined) {
        violations = refuse(violations, isLong(shelfRecord.bay, 1000000), '/shelf/bay', 'firing.shelf.bay.type', 'Bay must be text, without null or damaged characters.');
      } else if (shelfBay === null) {
        violations = fail(violations, '/shelf/bay', 'firing.shelf.bay.required', 'Bay is missing.');
      } else {
        if (shelfBay.includes('\n') || shelfBay.includes('\r')) violations = fail(violations, '/shelf/bay', 'firing.shelf.bay.lines', 'Bay must be on one line.');
        if (!shelfBayPattern.test(shelfBay)) violations = fail(violations, '/shelf/bay', 'firing.shelf.bay.pattern', 'Bay is not in the expected form.');
      }
      if (shelfLevel === undefined) {
        violations = refuse(violations, isLong(shelfRecord.level, 1000000), '/shelf/level', 'firing.shelf.level.type', 'Level must be a whole number in plain digits.');
      } else if (shelfLevel === null) {
        violations = fail(violations, '/shelf/level', 'firing.shelf.level.required', 'Level is missing.');
      } else {
        if (shelfLevel < 1) violations = fail(violations, '/shelf/level', 'firing.shelf.level.min', 'Level must be 1 or more.');
        if (shelfLevel > 6) violations = fail(violations, '/shelf/level', 'firing.shelf.level.max', 'Level must be 6 or less.');
      }
    }
  }
  let helpers = readList(rawHelpers, 10000);
  if (helpers === undefined) {
    violations = refuse(violations, Array.isArray(rawHelpers), '/helpers', 'firing.helpers.type', 'Helpers must be a list.');
  } else {
    if (helpers.length > 4) violations = fail(violations, '/helpers', 'firing.helpers.maxItems', 'Helpers must have at most 4 entries.');
    for (let index_ = 0; index_ < helpers.length; index_ += 1) {
      let helpersItem = readText(helpers[index_]);
      let helpersItemSize = measure(helpersItem);
      if (helpersItemSize !== helpersItemSize) helpersItem = undefined;
      if (helpersItem === undefined) {
        violations = refuse(violations, isLong(helpers[index_], 1000000), `/helpers/${index_}`, 'firing.helpers[].type', 'Helper must be text, without null or damaged characters.');
      } else if (helpersItem === null) {
        violations = fail(violations, `/helpers/${index_}`, 'firing.helpers[].required', 'Helper is missing.');
      } else {
        if (helpersItem.includes('\n') || helpersItem.includes('\r')) violations = fail(violations, `/helpers/${index_}`, 'firing.helpers[].lines', 'Helper must be on one line.');
        if (helpersItemSize > 30) violations = fail(violations, `/helpers/${index_}`, 'firing.helpers[].maxLength', 'Helper must have at most 30 characters.');
        if (helpersItem !== null && helpersItem !== undefined && repeats(helpers, index_, helpersItem)) violations = fail(violations, `/helpers/${index_}`, 'firing.helpers.distinct', 'Helper is in the list already.');
      }
      helpers[index_] = helpersItem;
    }
  }
  let notes = readText(withLines(rawNotes));
  let notesSize = measure(notes);
  if (notesSize !== notesSize) notes = undefined;
  if (notes === undefined) {
    violations = refuse(violations, isLong(rawNotes, 1000000), '/notes', 'firing.notes.type', 'Notes must be text, without null or damaged characters.');
  } else if (notes !== null) {
    if (notesSize > 500) violations = fail(violations, '/notes', 'firing.notes.maxLength', 'Notes must have at most 500 characters.');
  }
  if (collectOn !== undefined && loadOn !== undefined && collectOn !== null && loadOn !== null && collectOn <= loadOn) violations = fail(violations, '/collectOn', 'firing.collectAfterLoading', 'Collection day breaks the rule "collect after loading".');
  if (glaze !== undefined && vented !== undefined && glaze !== null && glaze === 'lustre' && vented !== null && vented !== true) violations = fail(violations, '/vented', 'firing.lustreNeedsVenting', 'Lustre firings need the vent open.');
  if (glaze !== undefined && peak !== undefined && glaze !== null && glaze === 'celadon' && peak !== null && peak < 1200) violations = fail(violations, '/peak', 'firing.celadonFiredHot', 'Celadon needs a peak of 1200 °C or more.');
  if (pieces !== undefined && helpers !== undefined && pieces !== null && pieces > 30 && helpers.length < 1) violations = fail(violations, '/helpers', 'firing.manyPiecesNeedHelp', 'More than 30 pieces need a helper.');
  if (violations !== null && sent !== undefined) violations = toldOf(violations, sent, known, subjects);
  if (violations !== null) return refused(violations, how.messages);
  const value = { tag, kiln, potter, title, pieces, peak, glaze, vented, fee, loadOn, collectOn, shelf: shelfAbsent ? null : { bay: shelfBay, level: shelfLevel }, helpers, notes };
  return { ok: true, value: sent !== undefined && !known ? sentOnly(value, sent, '') : value };
}
