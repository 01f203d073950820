/**
 * The check of a firing as an expert would write it by hand: the same answers as the compiled module on both wires and
 * for partial updates, all violations at once. What the compiled module is measured beside.
 */
const GLAZES = new Set(['none', 'celadon', 'tenmoku', 'lustre']);
const KEYS = new Set(
  'tag kiln potter title pieces peak glaze vented fee loadOn collectOn shelf helpers notes'.split(' '),
);
const SHELF_KEYS = new Set(['bay', 'level']);
const TAG = /^[A-Z]{2}-[0-9]{4}$/;
const KILN = /^K[0-9]{2}$/;
const HANDLE = /^[a-z][a-z0-9]*(?:-[a-z0-9]+)*$/;
const BAY = /^[A-F][0-9]?$/;
const DAMAGED = /[\0\ufffd\p{Surrogate}]/u;
const ASTRAL = /[\ud800-\udfff]/;
const LINE_END = /[\n\r]/;
const INTEGER = /^-?(?:0|[1-9][0-9]*)$/;
const DECIMAL = /^-?(?:0|[1-9][0-9]*)(?:\.[0-9]+)?$/;
const DATE = /^([0-9]{4})-([0-9]{2})-([0-9]{2})$/;
const MOST = 1_000_000;
/** Two entries where one is wanted. */
const TWICE = [];

const escaped = (key) => `/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`;
const isObject = (value) => typeof value === 'object' && value !== null && !Array.isArray(value);
const isTooLong = (value) => typeof value === 'string' && value.length > MOST;
const lengthOf = (text) => (ASTRAL.test(text) ? [...text].length : text.length);

/** Undefined is refused, null is absent. */
function readText(raw) {
  if (raw == null) return null;
  if (typeof raw !== 'string' || raw.length > MOST || DAMAGED.test(raw)) return undefined;
  return raw.trim() || null;
}

function readInteger(raw, form) {
  if (raw == null) return null;
  if (form && !(typeof raw === 'string' && INTEGER.test(raw))) return undefined;
  const value = form ? Number(raw) : raw;
  return Number.isSafeInteger(value) ? value + 0 : undefined;
}

function digitsOf(number) {
  const text = String(number);
  if (!text.includes('e')) return text;
  const [, sign, whole, fraction = '', exponent] = /^(-?)(\d)(?:\.(\d+))?e([+-]\d+)$/.exec(text);
  const places = Number(exponent);
  if (places < 0) return `${sign}0.${'0'.repeat(-places - 1)}${whole}${fraction}`;
  return sign + whole + fraction.padEnd(places, '0');
}

function readFee(raw, form) {
  if (raw == null) return null;
  if (!form) return typeof raw === 'number' && Number.isFinite(raw) ? raw + 0 : undefined;
  if (typeof raw !== 'string' || raw.length > 400 || !DECIMAL.test(raw)) return undefined;
  const trimmed = raw.includes('.') ? raw.replace(/\.?0+$/, '') : raw;
  const text = trimmed === '-0' ? '0' : trimmed;
  const value = Number(text);
  return digitsOf(value) === text ? value : undefined;
}

function readBoolean(raw, form) {
  if (raw === undefined) return form ? false : null;
  if (raw === null || (!form && typeof raw === 'boolean')) return raw;
  if (!form) return undefined;
  return raw === 'true' || raw === 'on' ? true : raw === 'false' ? false : undefined;
}

function readDate(raw) {
  if (raw == null) return null;
  const parts = typeof raw === 'string' ? DATE.exec(raw) : null;
  if (parts === null) return undefined;
  const [year, month, day] = [Number(parts[1]), Number(parts[2]), Number(parts[3])];
  if (year < 1 || month < 1 || month > 12 || day < 1 || day > 31) return undefined;
  if (day <= 28) return raw;
  const date = new Date(raw);
  return date.getUTCDate() === day ? raw : undefined;
}

function hasTwoDigits(value) {
  if (Math.abs(value) < 1e13) return Math.round(value * 100) / 100 === value;
  return (digitsOf(value).split('.')[1] ?? '').length <= 2;
}

/** One entry of a form: of a box the last one counts. */
function entryOf(given, isBox) {
  const entries = Array.isArray(given) ? given : given == null ? [] : [given];
  if (entries.length === 0) return undefined;
  if (entries.length > 1 && !isBox) return TWICE;
  const entry = entries.at(-1);
  return entry === '' ? null : typeof entry === 'string' ? entry : TWICE;
}

/** The names of a form: `shelf[bay]` or `shelf.bay`, `helpers[0]`, `helpers` and `helpers[]`. */
function readForm(input, strange, shown) {
  const record = {};
  const shelf = {};
  const byIndex = new Map();
  const more = [];
  let shelfText;
  let hasHelpers = false;
  for (const [name, given] of Object.entries(input)) {
    const entries = Array.isArray(given) ? given : given == null ? [] : [given];
    if (entries.length === 0) continue;
    const inner = /^shelf(?:\.(bay|level)|\[(bay|level)\])$/.exec(name);
    const index = /^helpers(?:\.(0|[1-9]\d{0,8})|\[(0|[1-9]\d{0,8})\])$/.exec(name);
    if (inner) {
      const key = inner[1] ?? inner[2];
      shelf[key] = [...(shelf[key] ?? []), ...entries];
    } else if (index) {
      const key = Number(index[1] ?? index[2]);
      byIndex.set(key, [...(byIndex.get(key) ?? []), ...entries]);
      hasHelpers = true;
    } else if (name === 'helpers' || name === 'helpers[]') {
      hasHelpers = true;
      more.push(...entries);
    } else if (name === 'shelf') shelfText = entries.find((entry) => !isBlank(entry));
    else if (KEYS.has(name)) record[name] = entryOf(entries, name === 'vented');
    else strange.push(name);
  }
  if (shelfText !== undefined) record.shelf = shelfText;
  else if (Object.keys(shelf).length > 0 || Object.hasOwn(input, 'shelf')) {
    record.shelf = Object.fromEntries(Object.entries(shelf).map(([key, entries]) => [key, entryOf(entries)]));
  }
  if (hasHelpers) {
    const items = [...byIndex].sort(([a], [b]) => a - b).map(([, entries]) => entries);
    record.helpers = [...items, ...more.map((entry) => [entry])]
      .filter((entries) => !entries.every(isBlank))
      .map((entries) => entryOf(entries));
  }
  for (const name of shown) {
    if (name === 'vented') record.vented ??= 'false';
    if (name === 'helpers') record.helpers ??= [];
  }
  return record;
}

function isBlank(entry) {
  return typeof entry === 'string' && entry.trim() === '';
}

function asForm(value) {
  if (value === null) return null;
  if (Array.isArray(value)) return value.map(asForm);
  if (typeof value === 'object') {
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, asForm(inner)]));
  }
  return typeof value === 'number' ? digitsOf(value) : String(value);
}

/** A partial update over the stored record. */
function merge(input, existing, sent, form) {
  const merged = { ...input };
  for (const key of KEYS) {
    const stored = existing?.[key] ?? null;
    if (input[key] === undefined) {
      if (stored !== null) merged[key] = form ? asForm(stored) : stored;
    } else if (key === 'shelf' && isObject(input.shelf)) {
      const whole = stored === null && existing != null;
      sent.add('/shelf');
      for (const inner of SHELF_KEYS) if (whole || input.shelf[inner] !== undefined) sent.add(`/shelf/${inner}`);
      merged.shelf = { ...(form ? asForm(stored) : stored), ...input.shelf };
    } else {
      sent.add(`/${key}`);
      if (key === 'shelf') for (const inner of SHELF_KEYS) sent.add(`/shelf/${inner}`);
    }
  }
  return merged;
}

/** The fields of each rule over several. */
const MENTIONS = {
  'firing.collectAfterLoading': ['/collectOn', '/loadOn'],
  'firing.lustreNeedsVenting': ['/glaze', '/vented'],
  'firing.celadonFiredHot': ['/glaze', '/peak'],
  'firing.manyPiecesNeedHelp': ['/pieces', '/helpers'],
};

function wasSent(pointer, sent) {
  return sent.has(pointer) || (pointer.startsWith('/helpers/') && sent.has('/helpers'));
}

const LIMITS = 'This is more than can be taken in one go.';

export const fields = {
  tag: { label: 'Firing tag', required: true },
  kiln: { label: 'Kiln', required: true },
  potter: { label: 'Booked by', required: true },
  title: { label: 'What is fired', required: true },
  pieces: { label: 'Number of pieces', required: true },
  peak: { label: 'Peak temperature (°C)', required: true },
  glaze: {
    label: 'Glaze',
    required: true,
    choices: [
      ['none', 'No glaze'],
      ['celadon', 'Celadon'],
      ['tenmoku', 'Tenmoku'],
      ['lustre', 'Lustre'],
    ],
  },
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

export function check(given, how = {}) {
  const violations = [];
  const tell = (pointer, rule, message) => {
    violations.push({ pointer, rule: `firing.${rule}`, message });
  };
  const refuse = (raw, pointer, field, message) => {
    if (isTooLong(raw)) tell(pointer, 'limits', LIMITS);
    else tell(pointer, `${field}.type`, message);
  };
  if (!isObject(given)) {
    tell('', 'type', 'Send one record: an object with fields.');
    return { ok: false, violations };
  }
  const form = how.wire === 'form';
  let input = given;
  const names = Object.keys(given);
  if (names.length > (form ? 100_000 : 1_000)) {
    tell('', 'limits', LIMITS);
    return { ok: false, violations };
  }
  if (form) {
    const strange = [];
    input = readForm(given, strange, how.partial ? (how.shown ?? []) : []);
    for (const name of strange) tell(escaped(name), 'keys', 'This field is not known here.');
  } else {
    for (const name of names) if (!KEYS.has(name)) tell(escaped(name), 'keys', 'This field is not known here.');
  }
  const sent = new Set();
  if (how.partial) input = merge(input, how.existing, sent, form);
  const TEXT = 'must be text, without null or damaged characters.';

  const tag = readText(input.tag);
  if (tag === undefined) refuse(input.tag, '/tag', 'tag', `Firing tag ${TEXT}`);
  else if (tag === null) tell('/tag', 'tag.required', 'Firing tag is missing.');
  else {
    if (LINE_END.test(tag)) tell('/tag', 'tag.lines', 'Firing tag must be on one line.');
    if (!TAG.test(tag)) tell('/tag', 'tag.pattern', 'Firing tag is not in the expected form.');
  }

  const kiln = readText(input.kiln);
  if (kiln === undefined) refuse(input.kiln, '/kiln', 'kiln', `Kiln ${TEXT}`);
  else if (kiln === null) tell('/kiln', 'kiln.required', 'Kiln is missing.');
  else {
    if (LINE_END.test(kiln)) tell('/kiln', 'kiln.lines', 'Kiln must be on one line.');
    if (!KILN.test(kiln)) tell('/kiln', 'kiln.pattern', 'Kiln is not in the expected form.');
  }

  const potter = readText(input.potter);
  if (potter === undefined) refuse(input.potter, '/potter', 'potter', `Booked by ${TEXT}`);
  else if (potter === null) tell('/potter', 'potter.required', 'Booked by is missing.');
  else {
    if (LINE_END.test(potter)) tell('/potter', 'potter.lines', 'Booked by must be on one line.');
    if (lengthOf(potter) > 20) tell('/potter', 'potter.maxLength', 'Booked by must have at most 20 characters.');
    if (!HANDLE.test(potter)) tell('/potter', 'potter.pattern', 'Booked by is not in the expected form.');
  }

  const title = readText(input.title);
  if (title === undefined) refuse(input.title, '/title', 'title', `What is fired ${TEXT}`);
  else if (title === null) tell('/title', 'title.required', 'What is fired is missing.');
  else {
    const length = lengthOf(title);
    if (LINE_END.test(title)) tell('/title', 'title.lines', 'What is fired must be on one line.');
    if (length < 3) tell('/title', 'title.minLength', 'What is fired must have at least 3 characters.');
    if (length > 60) tell('/title', 'title.maxLength', 'What is fired must have at most 60 characters.');
  }

  const WHOLE = 'must be a whole number in plain digits.';
  const pieces = readInteger(input.pieces, form);
  if (pieces === undefined) refuse(input.pieces, '/pieces', 'pieces', `Number of pieces ${WHOLE}`);
  else if (pieces === null) tell('/pieces', 'pieces.required', 'Number of pieces is missing.');
  else {
    if (pieces < 1) tell('/pieces', 'pieces.min', 'Number of pieces must be 1 or more.');
    if (pieces > 40) tell('/pieces', 'pieces.max', 'Number of pieces must be 40 or less.');
  }

  const peak = readInteger(input.peak, form);
  if (peak === undefined) refuse(input.peak, '/peak', 'peak', `Peak temperature (°C) ${WHOLE}`);
  else if (peak === null) tell('/peak', 'peak.required', 'Peak temperature (°C) is missing.');
  else {
    if (peak < 600) tell('/peak', 'peak.min', 'Peak temperature (°C) must be 600 or more.');
    if (peak > 1320) tell('/peak', 'peak.max', 'Peak temperature (°C) must be 1320 or less.');
  }

  const rawGlaze = input.glaze;
  const glaze = rawGlaze == null ? null : rawGlaze;
  const isCode = typeof glaze === 'string' && glaze !== '' && glaze.length <= MOST;
  if (glaze === null) tell('/glaze', 'glaze.required', 'Glaze is missing.');
  else if (!isCode) refuse(rawGlaze, '/glaze', 'glaze', 'Glaze must be the code of a choice.');
  else if (!GLAZES.has(glaze))
    tell('/glaze', 'glaze.enumeration', 'Glaze must be one of: No glaze, Celadon, Tenmoku, Lustre.');

  const vented = readBoolean(input.vented, form);
  if (vented === undefined) refuse(input.vented, '/vented', 'vented', 'Vent open must be true or false.');
  else if (vented === null) tell('/vented', 'vented.required', 'Vent open is missing.');

  const fee = readFee(input.fee, form);
  if (fee === undefined)
    refuse(input.fee, '/fee', 'fee', 'Fee paid must be a number in plain digits, with a point before the fraction.');
  else if (fee !== null) {
    if (fee >= 1000 || fee <= -1000)
      tell('/fee', 'fee.precision', 'Fee paid must have at most 3 digits before the point.');
    if (!hasTwoDigits(fee)) tell('/fee', 'fee.scale', 'Fee paid must have at most 2 digits after the point.');
    if (fee < 0) tell('/fee', 'fee.min', 'Fee paid must be 0 or more.');
    if (fee > 500) tell('/fee', 'fee.max', 'Fee paid must be 500 or less.');
  }

  const DAY = 'must be a real day, written YYYY-MM-DD.';
  const loadOn = readDate(input.loadOn);
  if (loadOn === undefined) refuse(input.loadOn, '/loadOn', 'loadOn', `Loading day ${DAY}`);
  else if (loadOn === null) tell('/loadOn', 'loadOn.required', 'Loading day is missing.');
  const collectOn = readDate(input.collectOn);
  if (collectOn === undefined) refuse(input.collectOn, '/collectOn', 'collectOn', `Collection day ${DAY}`);

  let shelf = null;
  const rawShelf = input.shelf;
  if (rawShelf != null && !isObject(rawShelf)) {
    tell('/shelf', 'shelf.type', 'Own shelf must be a group of fields.');
  } else if (rawShelf != null) {
    const keys = Object.keys(rawShelf);
    if (keys.length > 1_000) tell('/shelf', 'limits', LIMITS);
    else {
      for (const key of keys)
        if (!SHELF_KEYS.has(key)) tell(`/shelf${escaped(key)}`, 'keys', 'This field is not known here.');
      const bay = readText(rawShelf.bay);
      const level = readInteger(rawShelf.level, form);
      if (bay !== null || level !== null) {
        if (bay === undefined) refuse(rawShelf.bay, '/shelf/bay', 'shelf.bay', `Bay ${TEXT}`);
        else if (bay === null) tell('/shelf/bay', 'shelf.bay.required', 'Bay is missing.');
        else {
          if (LINE_END.test(bay)) tell('/shelf/bay', 'shelf.bay.lines', 'Bay must be on one line.');
          if (!BAY.test(bay)) tell('/shelf/bay', 'shelf.bay.pattern', 'Bay is not in the expected form.');
        }
        if (level === undefined) refuse(rawShelf.level, '/shelf/level', 'shelf.level', `Level ${WHOLE}`);
        else if (level === null) tell('/shelf/level', 'shelf.level.required', 'Level is missing.');
        else {
          if (level < 1) tell('/shelf/level', 'shelf.level.min', 'Level must be 1 or more.');
          if (level > 6) tell('/shelf/level', 'shelf.level.max', 'Level must be 6 or less.');
        }
        shelf = { bay, level };
      }
    }
  }

  let helpers = [];
  const rawHelpers = input.helpers;
  if (rawHelpers != null && !Array.isArray(rawHelpers)) {
    helpers = null;
    tell('/helpers', 'helpers.type', 'Helpers must be a list.');
  } else if (rawHelpers != null && rawHelpers.length > 10_000) {
    helpers = null;
    tell('/helpers', 'limits', LIMITS);
  } else if (rawHelpers != null) {
    if (rawHelpers.length > 4) tell('/helpers', 'helpers.maxItems', 'Helpers must have at most 4 entries.');
    for (let at = 0; at < rawHelpers.length; at += 1) {
      const helper = readText(rawHelpers[at]);
      const pointer = `/helpers/${at}`;
      if (helper === undefined) refuse(rawHelpers[at], pointer, 'helpers[]', `Helper ${TEXT}`);
      else if (helper === null) tell(pointer, 'helpers[].required', 'Helper is missing.');
      else {
        if (LINE_END.test(helper)) tell(pointer, 'helpers[].lines', 'Helper must be on one line.');
        if (lengthOf(helper) > 30) tell(pointer, 'helpers[].maxLength', 'Helper must have at most 30 characters.');
        if (helpers.includes(helper)) tell(pointer, 'helpers.distinct', 'Helper is in the list already.');
      }
      helpers.push(helper);
    }
  }

  const rawNotes = input.notes;
  const notes = readText(typeof rawNotes === 'string' ? rawNotes.replace(/\r\n?/g, '\n') : rawNotes);
  if (notes === undefined) refuse(rawNotes, '/notes', 'notes', `Notes ${TEXT}`);
  else if (notes !== null && lengthOf(notes) > 500)
    tell('/notes', 'notes.maxLength', 'Notes must have at most 500 characters.');

  if (collectOn && loadOn && collectOn <= loadOn)
    tell('/collectOn', 'collectAfterLoading', 'Collection day breaks the rule "collect after loading".');
  if (glaze === 'lustre' && vented === false)
    tell('/vented', 'lustreNeedsVenting', 'Lustre firings need the vent open.');
  if (glaze === 'celadon' && typeof peak === 'number' && peak < 1200)
    tell('/peak', 'celadonFiredHot', 'Celadon needs a peak of 1200 °C or more.');
  if (typeof pieces === 'number' && pieces > 30 && helpers !== null && helpers.length === 0)
    tell('/helpers', 'manyPiecesNeedHelp', 'More than 30 pieces need a helper.');

  let told = violations;
  if (how.partial) {
    const isKnown = how.existing != null;
    told = violations.filter(({ pointer, rule }) => {
      if (rule === 'firing.keys' || rule === 'firing.limits') return true;
      const mentioned = MENTIONS[rule];
      if (mentioned === undefined) return wasSent(pointer, sent);
      return isKnown ? mentioned.some((one) => wasSent(one, sent)) : mentioned.every((one) => wasSent(one, sent));
    });
  }
  if (told.length > 0) {
    if (how.messages) for (const one of told) one.message = how.messages[one.rule] ?? one.message;
    return { ok: false, violations: told };
  }
  const value = {
    tag,
    kiln,
    potter,
    title,
    pieces,
    peak,
    glaze,
    vented,
    fee,
    loadOn,
    collectOn,
    shelf,
    helpers,
    notes,
  };
  if (!how.partial || how.existing != null) return { ok: true, value };
  const only = Object.entries(value).filter(([key]) => sent.has(`/${key}`));
  const inner = (record) => Object.fromEntries(Object.entries(record).filter(([key]) => sent.has(`/shelf/${key}`)));
  return {
    ok: true,
    value: Object.fromEntries(only.map(([key, one]) => [key, key === 'shelf' && one !== null ? inner(one) : one])),
  };
}
