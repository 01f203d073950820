// Made by echo-rule from rules/kiln.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-3b55fa64c1a4a92d79bae246323cf83f41fad2e35c1c660016859b30c725fd62

/** What a page needs to know of the fields. */
export const fields = {
  code: { label: 'Kiln code', required: true },
  name: { label: 'Name', required: true },
  hottest: { label: 'Hottest firing (°C)', required: true },
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

const most = 1000000;

function readText(raw, limit = most) {
  if (typeof raw !== 'string') return raw === undefined || raw === null ? null : undefined;
  if (raw.length > limit) return undefined;
  const text = raw.trim();
  return text === '' ? null : text;
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

/** A number's shortest digits, without an exponent. */
function plainNumber(number) {
  const [digits, exponent] = String(number).split('e');
  if (exponent === undefined) return digits;
  const [, sign, whole, fraction = ''] = /^(-?)(\d)(?:\.(\d+))?$/.exec(digits);
  const places = Number(exponent);
  if (places < 0) return sign + '0.' + '0'.repeat(-places - 1) + whole + fraction;
  return sign + whole + fraction.padEnd(places, '0');
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

function readFlatForm(input, shape, strange, shown) {
  const record = {};
  for (const name of Object.keys(input)) {
    const entry = entryOf(input[name], shape[name]);
    if (entry === undefined) continue;
    if (Object.hasOwn(shape, name)) record[name] = entry;
    else strange.push(name);
  }
  for (const name of shown) if (shape[name] === 2 && !Object.hasOwn(record, name)) record[name] = 'false';
  return record;
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

const shape = { code: 0, name: 0, hottest: 0 };
const shapes = { code: {}, name: {}, hottest: {} };
const subjects = { 'kiln.type': null, 'kiln.limits': null, 'kiln.keys': null };
const limitsRule = 'kiln.limits';
const limitsMessage = 'This is more than can be taken in one go.';
const codePattern = /^(?:K[0-9]{2})$/u;
const declared_ = new Set(['code', 'name', 'hottest']);

/**
 * Checks one record: `{ ok: true, value }` with the canonical value, or `{ ok: false, violations }` with all that is
 * broken. `wire` is 'json' (as parsed), or 'form' (texts, or lists of texts where a name came several times).
 */
export function check(input, how = plain) {
  if (!isRecord(input)) return refused(fail(null, '', 'kiln.type', 'Send one record: an object with fields.'), how.messages);
  const form = how.wire === 'form';
  let violations = null;
  let sent;
  let known = false;
  let strange = null;
  const count = keysIn(input);
  if (count > (form ? 100000 : 1000)) return refused(fail(null, '', 'kiln.limits', 'This is more than can be taken in one go.'), how.messages);
  input = ownKeys(input);
  if (form) {
    strange = [];
    input = readFlatForm(input, shape, strange, how.partial === true && how.shown !== undefined ? how.shown : []);
  } else if (how.partial === true) strange = Object.keys(input);
  if (how.partial === true) {
    sent = new Map();
    known = how.existing !== undefined && how.existing !== null;
    input = merge(input, how.existing, shapes, '', sent, form, known);
  }
  const rawCode = input.code;
  const rawName = input.name;
  const rawHottest = input.hottest;
  if (strange === null && count !== (0 + (rawCode !== undefined) + (rawName !== undefined) + (rawHottest !== undefined))) strange = Object.keys(input);
  if (strange !== null) {
    for (const key of strange) {
      if (!declared_.has(key)) violations = fail(violations, pointerTo(key), 'kiln.keys', 'This field is not known here.');
    }
  }
  let code = rawCode;
  if (!(typeof code === 'string' && codePattern.test(code))) {
    code = readText(rawCode);
    const codeSize = measure(code);
    if (codeSize !== codeSize) code = undefined;
    if (code === undefined) {
      violations = refuse(violations, isLong(rawCode, 1000000), '/code', 'kiln.code.type', 'Kiln code must be text, without null or damaged characters.');
    } else if (code === null) {
      violations = fail(violations, '/code', 'kiln.code.required', 'Kiln code is missing.');
    } else {
      if (code.includes('\n') || code.includes('\r')) violations = fail(violations, '/code', 'kiln.code.lines', 'Kiln code must be on one line.');
      if (code === rawCode || !codePattern.test(code)) violations = fail(violations, '/code', 'kiln.code.pattern', 'Kiln code is not in the expected form.');
    }
  }
  let name = readText(rawName);
  let nameSize = measure(name);
  if (nameSize !== nameSize) name = undefined;
  if (name === undefined) {
    violations = refuse(violations, isLong(rawName, 1000000), '/name', 'kiln.name.type', 'Name must be text, without null or damaged characters.');
  } else if (name === null) {
    violations = fail(violations, '/name', 'kiln.name.required', 'Name is missing.');
  } else {
    if (name.includes('\n') || name.includes('\r')) violations = fail(violations, '/name', 'kiln.name.lines', 'Name must be on one line.');
    if (nameSize < 2) violations = fail(violations, '/name', 'kiln.name.minLength', 'Name must have at least 2 characters.');
    if (nameSize > 40) violations = fail(violations, '/name', 'kiln.name.maxLength', 'Name must have at most 40 characters.');
  }
  let hottest = readInteger(rawHottest, form);
  if (hottest === undefined) {
    violations = refuse(violations, isLong(rawHottest, 1000000), '/hottest', 'kiln.hottest.type', 'Hottest firing (°C) must be a whole number in plain digits.');
  } else if (hottest === null) {
    violations = fail(violations, '/hottest', 'kiln.hottest.required', 'Hottest firing (°C) is missing.');
  } else {
    if (hottest < 900) violations = fail(violations, '/hottest', 'kiln.hottest.min', 'Hottest firing (°C) must be 900 or more.');
    if (hottest > 1400) violations = fail(violations, '/hottest', 'kiln.hottest.max', 'Hottest firing (°C) must be 1400 or less.');
  }
  if (violations !== null && sent !== undefined) violations = toldOf(violations, sent, known, subjects);
  if (violations !== null) return refused(violations, how.messages);
  const value = { code, name, hottest };
  return { ok: true, value: sent !== undefined && !known ? sentOnly(value, sent, '') : value };
}
