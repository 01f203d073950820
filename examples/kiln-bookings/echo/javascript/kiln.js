// Made by echo-rule from rules/kiln.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-db1daf1cc93bbcdcff6b99cfcefb118b00f3d7441234b5c54e49e5c9f5bdafb3

/** What a page needs to know of the fields. */
export const fields = {
  code: { label: 'Kiln code', required: true },
  name: { label: 'Name', required: true },
  hottest: { label: 'Hottest firing (°C)', required: true },
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

function readInteger(raw, form) {
  if (raw === null || raw === undefined) return raw;
  if (form && !/^-?(?:0|[1-9][0-9]*)$/.test(raw)) return undefined;
  const number = form ? Number(raw) : raw;
  return Number.isSafeInteger(number) ? number + 0 : undefined;
}

/** The length in code points. */
function lengthOf(text) {
  let length = 0;
  for (const _ of text) length += 1;
  return length;
}

const declared = new Set(['code', 'name', 'hottest']);

const patternOneLine = /^(?:[^\n\r]*)$/u;

const patternCodePattern = /^(?:K[0-9]{2})$/u;

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
    return { ok: false, violations: [{ pointer: '', rule: 'kiln.type', message: 'Send one record: an object with fields.' }] };
  }
  for (const key of Object.keys(input)) {
    if (!declared.has(key)) fail(pointerTo(key), 'kiln.keys', 'This field is not known here.');
  }
  const code = readText(entry(input, 'code', form, null, false));
  if (code === undefined) {
    fail('/code', 'kiln.code.type', 'Kiln code must be text, without null or damaged characters.');
  } else if (code === null) {
    fail('/code', 'kiln.code.required', 'Kiln code is missing.');
  } else {
    if (!patternOneLine.test(code)) fail('/code', 'kiln.code.lines', 'Kiln code must be on one line.');
    if (!patternCodePattern.test(code)) fail('/code', 'kiln.code.pattern', 'Kiln code is not in the expected form.');
  }
  const name = readText(entry(input, 'name', form, null, false));
  if (name === undefined) {
    fail('/name', 'kiln.name.type', 'Name must be text, without null or damaged characters.');
  } else if (name === null) {
    fail('/name', 'kiln.name.required', 'Name is missing.');
  } else {
    if (!patternOneLine.test(name)) fail('/name', 'kiln.name.lines', 'Name must be on one line.');
    if (lengthOf(name) < 2) fail('/name', 'kiln.name.minLength', 'Name must have at least 2 characters.');
    if (lengthOf(name) > 40) fail('/name', 'kiln.name.maxLength', 'Name must have at most 40 characters.');
  }
  const hottest = readInteger(entry(input, 'hottest', form, null, false), form);
  if (hottest === undefined) {
    fail('/hottest', 'kiln.hottest.type', 'Hottest firing (°C) must be a whole number in plain digits.');
  } else if (hottest === null) {
    fail('/hottest', 'kiln.hottest.required', 'Hottest firing (°C) is missing.');
  } else {
    if (hottest < 900) fail('/hottest', 'kiln.hottest.min', 'Hottest firing (°C) must be 900 or more.');
    if (hottest > 1400) fail('/hottest', 'kiln.hottest.max', 'Hottest firing (°C) must be 1400 or less.');
  }
  if (violations.length > 0) return { ok: false, violations };
  return { ok: true, value: { code, name, hottest } };
}
