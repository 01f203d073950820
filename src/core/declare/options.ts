import { type FacetType, isRealDate, kinds } from '../kinds/index.js';
import { type Problem, problems } from '../messages/index.js';
import type { Pattern, Place, Row } from '../model/index.js';
import type { AnyDefinition } from './definition.js';

const common = ['optional', 'label', 'column'];

/** What a facet's value must be, in words, and the test for it. */
const checks: { readonly [T in FacetType]: readonly [expected: string, fits: (value: unknown) => boolean] } = {
  count: ['a whole number of 0 or more', (value) => Number.isSafeInteger(value) && Number(value) >= 0],
  'whole number': ['a safe integer', (value) => Number.isSafeInteger(value)],
  'ISO date': ['a real day written YYYY-MM-DD', (value) => typeof value === 'string' && isRealDate(value)],
  pattern: ['a regular expression literal', (value) => value instanceof RegExp || isRegExp(value)],
  'one or many': ["'one' or 'many'", (value) => value === 'one' || value === 'many'],
  choices: ['at least one choice', (value) => Array.isArray(value) && value.length > 0],
  target: ['the name of a ruleset', (value) => typeof value === 'string'],
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
  const facets: { [name: string]: Row[string] } = {};
  for (const [option, value] of Object.entries(options)) {
    if (value === undefined || common.includes(option) || (option === 'key' && 'to' in known)) continue;
    const type = Object.hasOwn(known, option) ? known[option] : undefined;
    if (type === undefined) {
      const takes = [...common, ...Object.keys(known)].join(', ');
      found.push(problems.optionUnknown(place, option, `${name} (${definition.definition})`, takes));
      continue;
    }
    const [expected, fits] = checks[type];
    if (!fits(value)) found.push(problems.facetInvalid(place, `${name}.${option}`, expected, JSON.stringify(value)));
    else facets[option] = type === 'pattern' ? patternOf(value as RegExp, place, found) : (value as Row[string]);
  }
  if ('to' in known) facets.key = String(options.key);
  return facets;
}

/** Reads a literal under u, or under v if it says so; other flags but i and s mean nothing for a whole value. */
function patternOf(literal: RegExp, place: Place, found: Problem[]): Pattern {
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
