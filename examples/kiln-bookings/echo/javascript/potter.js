// Made by echo-rule from rules/potter.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-38a896054750ddddd021ac797a7ed753c601c281ad1f1d52759a9f5184cff89c

/** What a page needs to know of the fields. */
export const fields = {
  handle: { label: 'Short name', required: true },
  name: { label: 'Name', required: true },
  phone: { label: 'Phone', required: false },
  email: { label: 'Email', required: false },
  memberSince: { label: 'Member since', required: true },
  inducted: { label: 'Has had the kiln induction', required: true },
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

function lowered(text) {
  return typeof text === 'string' ? text.replace(/[A-Z]+/g, (letters) => letters.toLowerCase()) : text;
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

/** A number's shortest digits, without an exponent. */
function plainNumber(number) {
  const [digits, exponent] = String(number).split('e');
  if (exponent === undefined) return digits;
  const [, sign, whole, fraction = ''] = /^(-?)(\d)(?:\.(\d+))?$/.exec(digits);
  const places = Number(exponent);
  if (places < 0) return sign + '0.' + '0'.repeat(-places - 1) + whole + fraction;
  return sign + whole + fraction.padEnd(places, '0');
}

function readBoolean(raw, form, missing) {
  if (raw === undefined) return missing;
  if (raw === null) return null;
  if (!form) return typeof raw === 'boolean' ? raw : undefined;
  return raw === 'true' || raw === 'on' ? true : raw === 'false' ? false : undefined;
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

const shape = { handle: 0, name: 0, phone: 0, email: 0, memberSince: 0, inducted: 2 };
const shapes = { handle: {}, name: {}, phone: {}, email: {}, memberSince: {}, inducted: {} };
const subjects = { 'potter.type': null, 'potter.limits': null, 'potter.keys': null };
const limitsRule = 'potter.limits';
const limitsMessage = 'This is more than can be taken in one go.';
const handlePattern = /^(?:[a-z][a-z0-9]*(?:-[a-z0-9]+)*)$/u;
const phonePattern = /^(?:\+[0-9]{1,3}(?: [0-9]{2,5}){2,4})$/u;
const emailPattern = /^(?:[a-zA-Z0-9.!#$%&'*+\/=?^_`{|}~\-]{1,64}@[a-zA-Z0-9](?:[a-zA-Z0-9\-]{0,61}[a-zA-Z0-9])?(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9\-]{0,61}[a-zA-Z0-9])?)*)$/u;
const declared_ = new Set(['handle', 'name', 'phone', 'email', 'memberSince', 'inducted']);

/**
 * Checks one record: `{ ok: true, value }` with the canonical value, or `{ ok: false, violations }` with all that is
 * broken. `wire` is 'json' (as parsed), or 'form' (texts, or lists of texts where a name came several times).
 */
export function check(input, how = plain) {
  if (!isRecord(input)) return refused(fail(null, '', 'potter.type', 'Send one record: an object with fields.'), how.messages);
  const form = how.wire === 'form';
  let violations = null;
  let sent;
  let known = false;
  let strange = null;
  const count = keysIn(input);
  if (count > (form ? 100000 : 1000)) return refused(fail(null, '', 'potter.limits', 'This is more than can be taken in one go.'), how.messages);
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
  const rawHandle = input.handle;
  const rawName = input.name;
  const rawPhone = input.phone;
  const rawEmail = input.email;
  const rawMemberSince = input.memberSince;
  const rawInducted = input.inducted;
  if (strange === null && count !== (0 + (rawHandle !== undefined) + (rawName !== undefined) + (rawPhone !== undefined) + (rawEmail !== undefined) + (rawMemberSince !== undefined) + (rawInducted !== undefined))) strange = Object.keys(input);
  if (strange !== null) {
    for (const key of strange) {
      if (!declared_.has(key)) violations = fail(violations, pointerTo(key), 'potter.keys', 'This field is not known here.');
    }
  }
  let handle = rawHandle;
  if (!(typeof handle === 'string' && handle.length <= 20 && handle.length <= 1000000 && handlePattern.test(handle))) {
    handle = readText(rawHandle);
    const handleSize = measure(handle);
    if (handleSize !== handleSize) handle = undefined;
    if (handle === undefined) {
      violations = refuse(violations, isLong(rawHandle, 1000000), '/handle', 'potter.handle.type', 'Short name must be text, without null or damaged characters.');
    } else if (handle === null) {
      violations = fail(violations, '/handle', 'potter.handle.required', 'Short name is missing.');
    } else {
      if (handle.includes('\n') || handle.includes('\r')) violations = fail(violations, '/handle', 'potter.handle.lines', 'Short name must be on one line.');
      if (handleSize > 20) violations = fail(violations, '/handle', 'potter.handle.maxLength', 'Short name must have at most 20 characters.');
      if (handleSize <= 20 && (handle === rawHandle || !handlePattern.test(handle))) violations = fail(violations, '/handle', 'potter.handle.pattern', 'Short name is not in the expected form.');
    }
  }
  let name = readText(rawName);
  let nameSize = measure(name);
  if (nameSize !== nameSize) name = undefined;
  if (name === undefined) {
    violations = refuse(violations, isLong(rawName, 1000000), '/name', 'potter.name.type', 'Name must be text, without null or damaged characters.');
  } else if (name === null) {
    violations = fail(violations, '/name', 'potter.name.required', 'Name is missing.');
  } else {
    if (name.includes('\n') || name.includes('\r')) violations = fail(violations, '/name', 'potter.name.lines', 'Name must be on one line.');
    if (nameSize < 2) violations = fail(violations, '/name', 'potter.name.minLength', 'Name must have at least 2 characters.');
    if (nameSize > 60) violations = fail(violations, '/name', 'potter.name.maxLength', 'Name must have at most 60 characters.');
  }
  let phone = rawPhone;
  if (!(typeof phone === 'string' && phonePattern.test(phone))) {
    phone = readText(rawPhone);
    const phoneSize = measure(phone);
    if (phoneSize !== phoneSize) phone = undefined;
    if (phone === undefined) {
      violations = refuse(violations, isLong(rawPhone, 1000000), '/phone', 'potter.phone.type', 'Phone must be text, without null or damaged characters.');
    } else if (phone !== null) {
      if (phone.includes('\n') || phone.includes('\r')) violations = fail(violations, '/phone', 'potter.phone.lines', 'Phone must be on one line.');
      if (phone === rawPhone || !phonePattern.test(phone)) violations = fail(violations, '/phone', 'potter.phone.pattern', 'Phone is not in the expected form.');
    }
  }
  let email = lowered(readText(rawEmail));
  if (!(typeof email === 'string' && email.length <= 254 && email.length <= 1000000 && emailPattern.test(email))) {
    const emailSize = measure(email);
    if (emailSize !== emailSize) email = undefined;
    if (email === undefined) {
      violations = refuse(violations, isLong(rawEmail, 1000000), '/email', 'potter.email.type', 'Email must be text, without null or damaged characters.');
    } else if (email !== null) {
      if (email.includes('\n') || email.includes('\r')) violations = fail(violations, '/email', 'potter.email.lines', 'Email must be on one line.');
      if (!emailPattern.test(email)) violations = fail(violations, '/email', 'potter.email.format', 'Email must be an e-mail address, such as name@example.org.');
      if (emailSize > 254) violations = fail(violations, '/email', 'potter.email.maxLength', 'Email must have at most 254 characters.');
    }
  }
  let memberSince = readDate(rawMemberSince);
  if (memberSince === undefined) {
    violations = refuse(violations, isLong(rawMemberSince, 1000000), '/memberSince', 'potter.memberSince.type', 'Member since must be a real day, written YYYY-MM-DD.');
  } else if (memberSince === null) {
    violations = fail(violations, '/memberSince', 'potter.memberSince.required', 'Member since is missing.');
  } else if (memberSince < '2015-01-01') {
    violations = fail(violations, '/memberSince', 'potter.memberSince.min', 'Member since must be 2015-01-01 or later.');
  }
  let inducted = readBoolean(rawInducted, form, form ? false : null);
  if (inducted === undefined) {
    violations = refuse(violations, isLong(rawInducted, 1000000), '/inducted', 'potter.inducted.type', 'Has had the kiln induction must be true or false.');
  } else if (inducted === null) {
    violations = fail(violations, '/inducted', 'potter.inducted.required', 'Has had the kiln induction is missing.');
  }
  if (violations !== null && sent !== undefined) violations = toldOf(violations, sent, known, subjects);
  if (violations !== null) return refused(violations, how.messages);
  const value = { handle, name, phone, email, memberSince, inducted };
  return { ok: true, value: sent !== undefined && !known ? sentOnly(value, sent, '') : value };
}
