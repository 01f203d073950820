import {
  canonicalDateTime,
  canonicalInstant,
  canonicalTime,
  charsetNames,
  type FacetType,
  isRealDate,
  kinds,
} from '../kinds/index.js';
import { type Problem, problems } from '../messages/index.js';
import { enforcers, exactOf, generations, type Pattern, type Place, type Row, storages } from '../model/index.js';
import type { AnyDefinition } from './definition.js';

type Check = readonly [expected: string, fits: (value: unknown) => boolean];

const finest = 6;
const isCount = (value: unknown) => Number.isSafeInteger(value) && Number(value) >= 0;
const isDecimal = (value: unknown) => exactOf(value) !== null;
const among = (...values: readonly unknown[]): Check => [
  values.map((value) => JSON.stringify(value)).join(' or '),
  (value) => values.includes(value),
];
const written = (how: string, reads: (text: string) => boolean): Check => [
  how,
  (value) => typeof value === 'string' && reads(value),
];

/** What a facet's value must be, in words, and the test for it. */
const checks: { readonly [T in FacetType]: Check } = {
  count: ['a whole number of 0 or more', isCount],
  'whole number': ['a safe integer', (value) => Number.isSafeInteger(value)],
  'positive whole number': ['a whole number of 1 or more', (value) => isCount(value) && value !== 0],
  decimal: ["a number, or decimal text such as '0.05'", isDecimal],
  'positive decimal': [
    "a number over 0, or such decimal text as '0.05'",
    (value) => (exactOf(value)?.digits ?? 0n) > 0n,
  ],
  flag: ['true or false', (value) => typeof value === 'boolean'],
  true: among(true),
  'ISO date': written('a real day written YYYY-MM-DD', isRealDate),
  'ISO time': written('a time written HH:MM:SS, or HH:MM', (text) => canonicalTime(text, finest, false) !== null),
  'ISO instant': written(
    'a moment written YYYY-MM-DDTHH:MM:SSZ',
    (text) => canonicalInstant(text, finest, true)?.endsWith('Z') === true && text.endsWith('Z'),
  ),
  'ISO local': written(
    'a day and time written YYYY-MM-DDTHH:MM:SS',
    (text) => canonicalDateTime(text, finest, true) !== null,
  ),
  'fraction digits': [`a whole number from 0 to ${finest}`, (value) => isCount(value) && Number(value) <= finest],
  'no seconds': among('none'),
  'time step': [
    'hours and minutes over 00:00, written HH:MM, or HH:MM:SS',
    (value) => typeof value === 'string' && /[1-9]/.test(value) && canonicalTime(value, 0, false) !== null,
  ],
  pattern: ['a regular expression literal', (value) => value instanceof RegExp || isRegExp(value)],
  'one or many': among('one', 'many'),
  'letter case': among('lower', 'upper'),
  'normal form': among('NFC'),
  charset: among(...charsetNames),
  schemes: [
    'a list of schemes in small letters',
    (value) =>
      Array.isArray(value) &&
      value.length > 0 &&
      value.every((one) => typeof one === 'string' && /^[a-z][a-z0-9+.-]*$/.test(one)),
  ],
  'IP version': among(4, 6),
  choices: ['at least one choice', (value) => Array.isArray(value) && value.length > 0],
  target: ['the name of a ruleset', (value) => typeof value === 'string'],
  'on delete': among('refuse', 'cascade', 'clear'),
  distinct: [
    'true, false, or the name of a field of the items',
    (value) => typeof value === 'boolean' || typeof value === 'string',
  ],
  'item field': ['the name of a field of the items', (value) => typeof value === 'string'],
  'kept as list': among('table', 'json'),
  'kept as table': among('columns', 'table'),
  'kept as enum': among('text', 'enum'),
};

const isText = (value: unknown) => typeof value === 'string';
const isTexts = (value: unknown) => typeof value === 'object' && value !== null && Object.values(value).every(isText);

/** What every kind takes. */
const common: { readonly [option: string]: Check } = {
  optional: ['true or false', (value) => typeof value === 'boolean'],
  label: ['text', isText],
  hint: ['text', isText],
  default: ['a value', (value) => ['string', 'number', 'boolean'].includes(typeof value)],
  column: ['text', isText],
  enforcedIn: [
    `a list of ${enforcers.join(', ')}`,
    (value) =>
      Array.isArray(value) && value.length > 0 && value.every((one) => (enforcers as readonly unknown[]).includes(one)),
  ],
  messages: ['an object of texts by facet', isTexts],
  storage: among(...storages),
  generated: [generations.join(', '), (value) => (generations as readonly unknown[]).includes(value)],
  secret: [
    '{ storedAs, by }',
    (value) => typeof value === 'object' && value !== null && isText((value as { storedAs?: unknown }).storedAs),
  ],
};

/** A literal of another realm: the declaration may have been evaluated in a context of its own. */
function isRegExp(value: unknown): value is RegExp {
  return Object.prototype.toString.call(value) === '[object RegExp]';
}

/**
 * Checks the options of a definition, as a caller without types may have given them, and returns its facets as data.
 * What is wrong is added to `found`.
 */
export function facetsOf(name: string, definition: AnyDefinition, found: Problem[]): Row {
  const { options, place } = definition;
  const known: { readonly [facet: string]: FacetType } = kinds[definition.definition].facets;
  const facets: { [name: string]: Row[string] } = { ...kinds[definition.definition].fixed };
  for (const [option, value] of Object.entries(options)) {
    if (value === undefined || (option === 'key' && 'to' in known)) continue;
    const type = Object.hasOwn(known, option) ? known[option] : undefined;
    const check = type === undefined ? (Object.hasOwn(common, option) ? common[option] : undefined) : checks[type];
    if (check === undefined) {
      const takes = [...Object.keys(common), ...Object.keys(known)].join(', ');
      found.push(problems.optionUnknown(place, option, `${name} (${definition.definition})`, takes));
      continue;
    }
    const [expected, fits] = check;
    if (!fits(value)) found.push(problems.facetInvalid(place, `${name}.${option}`, expected, JSON.stringify(value)));
    else if (type !== undefined) {
      facets[option] = type === 'pattern' ? patternOf(value as RegExp, place, found) : (value as Row[string]);
    }
  }
  if ('to' in known) facets.key = String(options.key);
  if ('seconds' in known) found.push(...timesWritten(name, facets, place));
  found.push(...conflicts(name, facets, definition));
  return facets;
}

/** Writes the limits of times as their field does, with seconds or without. What can't be written so is a problem. */
function timesWritten(name: string, facets: { [name: string]: Row[string] }, place: Place): readonly Problem[] {
  const found: Problem[] = [];
  for (const limit of ['min', 'max', 'step']) {
    const text = facets[limit];
    if (typeof text !== 'string') continue;
    if (facets.seconds !== 'none') facets[limit] = text.length === 5 ? `${text}:00` : text;
    else if (text.length !== 5)
      found.push(problems.facetInvalid(place, `${name}.${limit}`, 'a time written HH:MM', JSON.stringify(text)));
  }
  return found;
}

/** Facets that can't stand together. */
function conflicts(name: string, facets: Row, { definition, place }: AnyDefinition): readonly Problem[] {
  const { precision, scale } = facets;
  const found: Problem[] = [];
  if (facets.collapse === true && facets.lines === 'many')
    found.push(problems.facetsClash(place, `${name}.collapse`, "lines: 'many'", 'it would take the line ends away'));
  if (facets.seconds === 'none' && facets.fraction !== undefined)
    found.push(problems.facetsClash(place, `${name}.seconds`, 'fraction', 'without seconds there is no fraction'));
  if (facets.collapse === true && facets.trim === false)
    found.push(problems.facetsClash(place, `${name}.collapse`, 'trim: false', 'what is collapsed is trimmed too'));
  if ('precision' in kinds[definition].facets) {
    if (precision === undefined || scale === undefined)
      found.push(problems.facetInvalid(place, name, 'given precision and scale both', 'one of them'));
    else if (Number(scale) > Number(precision))
      found.push(problems.facetInvalid(place, `${name}.scale`, `at most precision (${precision})`, String(scale)));
  }
  return found;
}

/** Reads a literal under u, or under v if it says so; other flags but i and s mean nothing for a whole value. */
export function patternOf(literal: RegExp, place: Place, found: Problem[]): Pattern {
  const idle = literal.flags.replace(/[iusv]/g, '');
  if (idle !== '') found.push(problems.patternFlags(place, String(literal), idle));
  const flags = `${literal.flags.includes('v') ? 'v' : 'u'}${literal.flags.replace(/[^is]/g, '')}`;
  try {
    new RegExp(literal.source, flags);
  } catch (error) {
    const reason = error instanceof Error ? error.message.replace(/^.*: /, '') : String(error);
    found.push(problems.patternInvalid(place, String(literal), reason.toLowerCase()));
  }
  return { source: literal.source, flags };
}
