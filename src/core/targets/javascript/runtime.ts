/** The helpers that modules are printed with, each only where it is used. Plain text: no module imports another. */
export const runtime: { readonly [helper: string]: { readonly uses: readonly string[]; readonly text: string } } = {
  entry: {
    uses: [],
    text: `/** One entry: null where absent, undefined where there are several and one is wanted. */
function entry(input, key, form, missing, last) {
  const given = Object.hasOwn(input, key) ? input[key] : undefined;
  if (!form) return given === undefined ? null : given;
  const several = Array.isArray(given);
  if (given === undefined || given === null || (several && given.length === 0)) return missing;
  if (several && given.length > 1 && !last) return undefined;
  const one = several ? given[given.length - 1] : given;
  if (one === '') return null;
  return typeof one === 'string' ? one : undefined;
}`,
  },
  pointerTo: {
    uses: [],
    text: `/** The JSON Pointer (RFC 6901) of a key. */
function pointerTo(key) {
  return '/' + key.replaceAll('~', '~0').replaceAll('/', '~1');
}`,
  },
  damaged: {
    uses: [],
    text: `/** U+0000, lone surrogates, and U+FFFD, which encoders leave where text was damaged. */
const damaged = /[\\u0000\\ufffd\\p{Surrogate}]/u;`,
  },
  readText: {
    uses: ['damaged'],
    text: `function readText(raw) {
  if (raw === null) return null;
  if (typeof raw !== 'string' || damaged.test(raw)) return undefined;
  const text = raw.trim();
  return text === '' ? null : text;
}`,
  },
  readLines: {
    uses: ['readText'],
    text: `function readLines(raw) {
  return readText(typeof raw === 'string' ? raw.replace(/\\r\\n?/g, '\\n') : raw);
}`,
  },
  readInteger: {
    uses: [],
    text: `function readInteger(raw, form) {
  if (raw === null || raw === undefined) return raw;
  if (form && !/^-?(?:0|[1-9][0-9]*)$/.test(raw)) return undefined;
  const number = form ? Number(raw) : raw;
  return Number.isSafeInteger(number) ? number + 0 : undefined;
}`,
  },
  readCode: {
    uses: [],
    text: `function readCode(raw) {
  return raw === null || (typeof raw === 'string' && raw !== '') ? raw : undefined;
}`,
  },
  readDate: {
    uses: [],
    text: `/** A real day of the years 0001 to 9999 (ISO 8601, proleptic Gregorian calendar). */
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
}`,
  },
  readBoolean: {
    uses: [],
    text: `function readBoolean(raw, form) {
  if (raw === null || typeof raw === 'boolean') return raw;
  if (!form) return undefined;
  if (raw === 'true' || raw === 'on') return true;
  return raw === 'false' ? false : undefined;
}`,
  },
  lengthOf: {
    uses: [],
    text: `/** The length in code points. */
function lengthOf(text) {
  let length = 0;
  for (const _ of text) length += 1;
  return length;
}`,
  },
};

/** The texts of the helpers that some code calls, and of those that they call, each once, in the table's order. */
export function helpersFor(code: string): readonly string[] {
  const wanted = new Set<string>();
  const want = (helper: string) => {
    wanted.add(helper);
    for (const inner of runtime[helper]?.uses ?? []) want(inner);
  };
  for (const helper of Object.keys(runtime)) if (new RegExp(`\\b${helper}\\b`).test(code)) want(helper);
  return Object.entries(runtime).flatMap(([helper, { text }]) => (wanted.has(helper) ? [text] : []));
}
