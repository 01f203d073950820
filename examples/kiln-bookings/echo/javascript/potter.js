// Made by echo-rule from rules/potter.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-27e8914e0c62e154d05dfa930764b3ead1dc938a65ff822cf4530ab83aa2303e

/** What a page needs to know of the fields. */
export const fields = {
  handle: { label: 'Short name', required: true },
  name: { label: 'Name', required: true },
  phone: { label: 'Phone', required: false },
  memberSince: { label: 'Member since', required: true },
  inducted: { label: 'Has had the kiln induction', required: true },
};

/** One entry: null where absent, undefined where there are several and one is wanted. */
function entry(input, key, form, missing, last) {
  const given = Object.hasOwn(input, key) ? input[key] : undefined;
  if (!form) return given === undefined ? null : given;
  const several = Array.isArray(given);
  if (given === undefined || given === null || (several && given.length === 0)) return missing;
  if (several && given.length > 1 && !last) return undefined;
  const one = several ? given[given.length - 1] : given;
  if (one === '') return null;
  return typeof one === 'string' ? one : undefined;
}

/** The JSON Pointer (RFC 6901) of a key. */
function pointerTo(key) {
  return '/' + key.replaceAll('~', '~0').replaceAll('/', '~1');
}

/** U+0000, lone surrogates, and U+FFFD, which encoders leave where text was damaged. */
const damaged = /[\u0000\ufffd\p{Surrogate}]/u;

function readText(raw) {
  if (raw === null) return null;
  if (typeof raw !== 'string' || damaged.test(raw)) return undefined;
  const text = raw.trim();
  return text === '' ? null : text;
}

/** A real day of the years 0001 to 9999 (ISO 8601, proleptic Gregorian calendar). */
function readDate(raw) {
  if (raw === null) return null;
  const parts = typeof raw === 'string' ? /^([0-9]{4})-([0-9]{2})-([0-9]{2})$/.exec(raw) : null;
  if (parts === null) return undefined;
  const year = Number(parts[1]);
  const month = Number(parts[2]);
  const day = Number(parts[3]);
  const leap = year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
  const days = month === 2 ? (leap ? 29 : 28) : month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
  return year >= 1 && month >= 1 && month <= 12 && day >= 1 && day <= days ? raw : undefined;
}

function readBoolean(raw, form) {
  if (raw === null || typeof raw === 'boolean') return raw;
  if (!form) return undefined;
  if (raw === 'true' || raw === 'on') return true;
  return raw === 'false' ? false : undefined;
}

/** The length in code points. */
function lengthOf(text) {
  let length = 0;
  for (const _ of text) length += 1;
  return length;
}

const declared = new Set(['handle', 'name', 'phone', 'memberSince', 'inducted']);

const patternOneLine = /^(?:[^\n\r]*)$/u;

const patternHandlePattern = /^(?:[a-z][a-z0-9]*(?:-[a-z0-9]+)*)$/u;

const patternPhonePattern = /^(?:\+[0-9]{1,3}(?: [0-9]{2,5}){2,4})$/u;

/**
 * Checks one record: `{ ok: true, value }` with the canonical value, or `{ ok: false, violations }` with all that is
 * broken. `wire` is 'json' (as parsed), or 'form' (texts, or lists of texts where a name came several times).
 */
export function check(input, { wire = 'json' } = {}) {
  const form = wire === 'form';
  // Of each field: undefined is refused, null is absent, anything else is the canonical value.
  const violations = [];
  const fail = (pointer, rule, message) => violations.push({ pointer, rule, message });
  if (typeof input !== 'object' || input === null || Array.isArray(input)) {
    return { ok: false, violations: [{ pointer: '', rule: 'potter.type', message: 'Send one record: an object with fields.' }] };
  }
  for (const key of Object.keys(input)) {
    if (!declared.has(key)) fail(pointerTo(key), 'potter.keys', 'This field is not known here.');
  }
  const handle = readText(entry(input, 'handle', form, null, false));
  if (handle === undefined) {
    fail('/handle', 'potter.handle.type', 'Short name must be text, without null or damaged characters.');
  } else if (handle === null) {
    fail('/handle', 'potter.handle.required', 'Short name is missing.');
  } else {
    if (!patternOneLine.test(handle)) fail('/handle', 'potter.handle.lines', 'Short name must be on one line.');
    if (lengthOf(handle) > 20) fail('/handle', 'potter.handle.maxLength', 'Short name must have at most 20 characters.');
    if (!patternHandlePattern.test(handle)) fail('/handle', 'potter.handle.pattern', 'Short name is not in the expected form.');
  }
  const name = readText(entry(input, 'name', form, null, false));
  if (name === undefined) {
    fail('/name', 'potter.name.type', 'Name must be text, without null or damaged characters.');
  } else if (name === null) {
    fail('/name', 'potter.name.required', 'Name is missing.');
  } else {
    if (!patternOneLine.test(name)) fail('/name', 'potter.name.lines', 'Name must be on one line.');
    if (lengthOf(name) < 2) fail('/name', 'potter.name.minLength', 'Name must have at least 2 characters.');
    if (lengthOf(name) > 60) fail('/name', 'potter.name.maxLength', 'Name must have at most 60 characters.');
  }
  const phone = readText(entry(input, 'phone', form, null, false));
  if (phone === undefined) {
    fail('/phone', 'potter.phone.type', 'Phone must be text, without null or damaged characters.');
  } else if (phone !== null) {
    if (!patternOneLine.test(phone)) fail('/phone', 'potter.phone.lines', 'Phone must be on one line.');
    if (!patternPhonePattern.test(phone)) fail('/phone', 'potter.phone.pattern', 'Phone is not in the expected form.');
  }
  const memberSince = readDate(entry(input, 'memberSince', form, null, false));
  if (memberSince === undefined) {
    fail('/memberSince', 'potter.memberSince.type', 'Member since must be a real day, written YYYY-MM-DD.');
  } else if (memberSince === null) {
    fail('/memberSince', 'potter.memberSince.required', 'Member since is missing.');
  } else if (memberSince < '2015-01-01') {
    fail('/memberSince', 'potter.memberSince.min', 'Member since must be 2015-01-01 or later.');
  }
  const inducted = readBoolean(entry(input, 'inducted', form, false, true), form);
  if (inducted === undefined) {
    fail('/inducted', 'potter.inducted.type', 'Has had the kiln induction must be true or false.');
  } else if (inducted === null) {
    fail('/inducted', 'potter.inducted.required', 'Has had the kiln induction is missing.');
  }
  if (violations.length > 0) return { ok: false, violations };
  return { ok: true, value: { handle, name, phone, memberSince, inducted } };
}
