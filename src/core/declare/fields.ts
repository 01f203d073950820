import { type Problem, ProblemError, problems } from '../messages/index.js';
import type { Definition } from './definition.js';
import { placeOfCaller } from './place.js';
import type { AnyRuleset, KeyValueOf, NameOf } from './types.js';

/** What every kind takes. A field is required unless `optional` is true. */
export interface CommonOptions<Optional extends boolean> {
  readonly optional?: Optional;
  /** The name that people read; made from the field's name if not given. */
  readonly label?: string;
  /** The column's name; the field's name in snake case if not given. */
  readonly column?: string;
}

export interface TextOptions<Optional extends boolean> extends CommonOptions<Optional> {
  /** Lengths count code points of the canonical value. */
  readonly minLength?: number;
  readonly maxLength?: number;
  /** Held against the whole value, read under flag u (v if the literal has it). */
  readonly pattern?: RegExp;
  /** One line unless `many`. */
  readonly lines?: 'one' | 'many';
}

export interface IntegerOptions<Optional extends boolean> extends CommonOptions<Optional> {
  readonly min?: number;
  readonly max?: number;
}

export interface DateOptions<Optional extends boolean> extends CommonOptions<Optional> {
  /** ISO 8601 days, as `2026-03-02`. */
  readonly min?: string;
  readonly max?: string;
}

/** Text, trimmed of outer white space; blank text is absent. */
export function text<Optional extends boolean = false>(
  options: TextOptions<Optional> = {},
): Definition<'text', string, Optional> {
  return { definition: 'text', place: placeOfCaller(1), options: { ...options }, item: null };
}

/** A whole number within the safe integers of ECMAScript. */
export function integer<Optional extends boolean = false>(
  options: IntegerOptions<Optional> = {},
): Definition<'number', number, Optional> {
  return { definition: 'integer', place: placeOfCaller(1), options: { ...options }, item: null };
}

/** A day of the proleptic Gregorian calendar, years 0001 to 9999; its value is text, `YYYY-MM-DD`. */
export function date<Optional extends boolean = false>(
  options: DateOptions<Optional> = {},
): Definition<'date', string, Optional> {
  return { definition: 'date', place: placeOfCaller(1), options: { ...options }, item: null };
}

/** True or false. An unticked box of a form is false where the field is required, absent where it is optional. */
export function boolean<Optional extends boolean = false>(
  options: CommonOptions<Optional> = {},
): Definition<'boolean', boolean, Optional> {
  return { definition: 'boolean', place: placeOfCaller(1), options: { ...options }, item: null };
}

/**
 * A closed list: labels by code, in display order. A code is what is stored: adding a choice in the middle shifts none.
 *
 * @throws ProblemError `choice_code` for a code that is number-like, empty or padded: JavaScript would move it.
 */
export function choice<const Choices extends { readonly [code: string]: string }, Optional extends boolean = false>(
  choices: Choices,
  options: CommonOptions<Optional> = {},
): Definition<'code', Extract<keyof Choices, string>, Optional> {
  const place = placeOfCaller(1);
  const found: Problem[] = Object.keys(choices)
    .filter((code) => code.trim() !== code || code === '' || /^[0-9]+$/.test(code) || /[\u0000\ufffd]/.test(code))
    .map((code) => problems.choiceCode(place, code));
  if (found.length > 0) throw new ProblemError(found);
  return { definition: 'choice', place, options: { ...options, choices: Object.entries(choices) }, item: null };
}

/**
 * The key of a stored record of another ruleset. It is written and stored as that key is.
 *
 * @throws ProblemError `reference_keyless` where the target has no key.
 */
export function reference<const Target extends AnyRuleset, Optional extends boolean = false>(
  target: Target,
  options: CommonOptions<Optional> = {},
): Definition<'reference', KeyValueOf<Target>, Optional, NameOf<Target>> {
  const place = placeOfCaller(1);
  const { key, ruleset } = target.model;
  const item = key === null ? undefined : target.fields[key];
  if (item === undefined) throw new ProblemError([problems.referenceKeyless(place, ruleset)]);
  return { definition: 'reference', place, options: { ...options, to: ruleset, key }, item };
}
