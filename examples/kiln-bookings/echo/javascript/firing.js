// Made by echo-rule from rules/firing.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-7767acc3d250b2245657546b7e924b38b93b947eb7168fa31971ed52ac8a3ca6

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
  loadOn: { label: 'Loading day', required: true },
  collectOn: { label: 'Collection day', required: false },
  notes: { label: 'Notes', required: false },
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

function readLines(raw) {
  return readText(typeof raw === 'string' ? raw.replace(/\r\n?/g, '\n') : raw);
}

function readInteger(raw, form) {
  if (raw === null || raw === undefined) return raw;
  if (form && !/^-?(?:0|[1-9][0-9]*)$/.test(raw)) return undefined;
  const number = form ? Number(raw) : raw;
  return Number.isSafeInteger(number) ? number + 0 : undefined;
}

function readCode(raw) {
  return raw === null || (typeof raw === 'string' && raw !== '') ? raw : undefined;
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

const declared = new Set(['tag', 'kiln', 'potter', 'title', 'pieces', 'peak', 'glaze', 'vented', 'loadOn', 'collectOn', 'notes']);

const patternOneLine = /^(?:[^\n\r]*)$/u;

const patternTagPattern = /^(?:[A-Z]{2}-[0-9]{4})$/u;

const patternKilnPattern = /^(?:K[0-9]{2})$/u;

const patternPotterPattern = /^(?:[a-z][a-z0-9]*(?:-[a-z0-9]+)*)$/u;

const codesGlazeEnumeration = new Set(['none', 'celadon', 'tenmoku', 'lustre']);

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
    return { ok: false, violations: [{ pointer: '', rule: 'firing.type', message: 'Send one record: an object with fields.' }] };
  }
  for (const key of Object.keys(input)) {
    if (!declared.has(key)) fail(pointerTo(key), 'firing.keys', 'This field is not known here.');
  }
  const tag = readText(entry(input, 'tag', form, null, false));
  if (tag === undefined) {
    fail('/tag', 'firing.tag.type', 'Firing tag must be text, without null or damaged characters.');
  } else if (tag === null) {
    fail('/tag', 'firing.tag.required', 'Firing tag is missing.');
  } else {
    if (!patternOneLine.test(tag)) fail('/tag', 'firing.tag.lines', 'Firing tag must be on one line.');
    if (!patternTagPattern.test(tag)) fail('/tag', 'firing.tag.pattern', 'Firing tag is not in the expected form.');
  }
  const kiln = readText(entry(input, 'kiln', form, null, false));
  if (kiln === undefined) {
    fail('/kiln', 'firing.kiln.type', 'Kiln must be text, without null or damaged characters.');
  } else if (kiln === null) {
    fail('/kiln', 'firing.kiln.required', 'Kiln is missing.');
  } else {
    if (!patternOneLine.test(kiln)) fail('/kiln', 'firing.kiln.lines', 'Kiln must be on one line.');
    if (!patternKilnPattern.test(kiln)) fail('/kiln', 'firing.kiln.pattern', 'Kiln is not in the expected form.');
  }
  const potter = readText(entry(input, 'potter', form, null, false));
  if (potter === undefined) {
    fail('/potter', 'firing.potter.type', 'Booked by must be text, without null or damaged characters.');
  } else if (potter === null) {
    fail('/potter', 'firing.potter.required', 'Booked by is missing.');
  } else {
    if (!patternOneLine.test(potter)) fail('/potter', 'firing.potter.lines', 'Booked by must be on one line.');
    if (lengthOf(potter) > 20) fail('/potter', 'firing.potter.maxLength', 'Booked by must have at most 20 characters.');
    if (!patternPotterPattern.test(potter)) fail('/potter', 'firing.potter.pattern', 'Booked by is not in the expected form.');
  }
  const title = readText(entry(input, 'title', form, null, false));
  if (title === undefined) {
    fail('/title', 'firing.title.type', 'What is fired must be text, without null or damaged characters.');
  } else if (title === null) {
    fail('/title', 'firing.title.required', 'What is fired is missing.');
  } else {
    if (!patternOneLine.test(title)) fail('/title', 'firing.title.lines', 'What is fired must be on one line.');
    if (lengthOf(title) < 3) fail('/title', 'firing.title.minLength', 'What is fired must have at least 3 characters.');
    if (lengthOf(title) > 60) fail('/title', 'firing.title.maxLength', 'What is fired must have at most 60 characters.');
  }
  const pieces = readInteger(entry(input, 'pieces', form, null, false), form);
  if (pieces === undefined) {
    fail('/pieces', 'firing.pieces.type', 'Number of pieces must be a whole number in plain digits.');
  } else if (pieces === null) {
    fail('/pieces', 'firing.pieces.required', 'Number of pieces is missing.');
  } else {
    if (pieces < 1) fail('/pieces', 'firing.pieces.min', 'Number of pieces must be 1 or more.');
    if (pieces > 40) fail('/pieces', 'firing.pieces.max', 'Number of pieces must be 40 or less.');
  }
  const peak = readInteger(entry(input, 'peak', form, null, false), form);
  if (peak === undefined) {
    fail('/peak', 'firing.peak.type', 'Peak temperature (°C) must be a whole number in plain digits.');
  } else if (peak === null) {
    fail('/peak', 'firing.peak.required', 'Peak temperature (°C) is missing.');
  } else {
    if (peak < 600) fail('/peak', 'firing.peak.min', 'Peak temperature (°C) must be 600 or more.');
    if (peak > 1320) fail('/peak', 'firing.peak.max', 'Peak temperature (°C) must be 1320 or less.');
  }
  const glaze = readCode(entry(input, 'glaze', form, null, false));
  if (glaze === undefined) {
    fail('/glaze', 'firing.glaze.type', 'Glaze must be the code of a choice.');
  } else if (glaze === null) {
    fail('/glaze', 'firing.glaze.required', 'Glaze is missing.');
  } else if (!codesGlazeEnumeration.has(glaze)) {
    fail('/glaze', 'firing.glaze.enumeration', 'Glaze must be one of: No glaze, Celadon, Tenmoku, Lustre.');
  }
  const vented = readBoolean(entry(input, 'vented', form, false, true), form);
  if (vented === undefined) {
    fail('/vented', 'firing.vented.type', 'Vent open must be true or false.');
  } else if (vented === null) {
    fail('/vented', 'firing.vented.required', 'Vent open is missing.');
  }
  const loadOn = readDate(entry(input, 'loadOn', form, null, false));
  if (loadOn === undefined) {
    fail('/loadOn', 'firing.loadOn.type', 'Loading day must be a real day, written YYYY-MM-DD.');
  } else if (loadOn === null) {
    fail('/loadOn', 'firing.loadOn.required', 'Loading day is missing.');
  }
  const collectOn = readDate(entry(input, 'collectOn', form, null, false));
  if (collectOn === undefined) fail('/collectOn', 'firing.collectOn.type', 'Collection day must be a real day, written YYYY-MM-DD.');
  const notes = readLines(entry(input, 'notes', form, null, false));
  if (notes === undefined) {
    fail('/notes', 'firing.notes.type', 'Notes must be text, without null or damaged characters.');
  } else if (notes !== null) {
    if (lengthOf(notes) > 500) fail('/notes', 'firing.notes.maxLength', 'Notes must have at most 500 characters.');
  }
  if (collectOn !== undefined && loadOn !== undefined && collectOn !== null && loadOn !== null && collectOn <= loadOn) fail('/collectOn', 'firing.collectAfterLoading', 'Collection day breaks the rule "collect after loading".');
  if (glaze !== undefined && vented !== undefined && glaze !== null && glaze === 'lustre' && vented !== null && vented !== true) fail('/vented', 'firing.lustreNeedsVenting', 'Lustre firings need the vent open.');
  if (glaze !== undefined && peak !== undefined && glaze !== null && glaze === 'celadon' && peak !== null && peak < 1200) fail('/peak', 'firing.celadonFiredHot', 'Celadon needs a peak of 1200 °C or more.');
  if (violations.length > 0) return { ok: false, violations };
  return { ok: true, value: { tag, kiln, potter, title, pieces, peak, glaze, vented, loadOn, collectOn, notes } };
}
