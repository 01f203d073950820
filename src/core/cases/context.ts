import type { Decider } from '../decider/index.js';
import type { Schema } from '../declare/index.js';
import type { KnownField } from '../kinds/index.js';
import {
  type Case,
  listsOf,
  type Operation,
  type Path,
  type Row,
  type Value,
  type Verdict,
  valueAt,
  type Wire,
  wires,
  withValue,
} from '../model/index.js';
import type { Reasoner } from '../reason/index.js';
import type { Carrier } from './carrier.js';
import { caseClock } from './clock.js';
import type { Grammars } from './grammars.js';
import { putRaw } from './places.js';

export type Stored = Case['before'][number];

/** What a criterion works from: a valid record, the rows that it refers to, and other valid records beside it. */
export interface Context {
  readonly model: Schema[number];
  readonly base: Row;
  /** The rows that the base refers to, in an order that their own references allow. */
  readonly before: readonly Stored[];
  /** A valid record that shares no unique value with the base, and the rows that it refers to. */
  readonly other: Row;
  readonly otherBefore: readonly Stored[];
  readonly choices: ReadonlyMap<Path, readonly Value[]>;
  /** The verdict over a record of this ruleset, with no stored rows known. */
  readonly decide: Decider;
  settle(row: Row, fixed: readonly Path[], about: string): Row;
  /** The rows that a record's references name, where they can be made valid. */
  targets(row: Row): readonly Stored[];
  /** What an entry of a list names that refers to a stored row. */
  keyFor(field: KnownField, seed: number): Value;
  /** The rows of a ruleset that are stored already where the cases go. */
  beside(ruleset: string): readonly Row[];
  readonly schema: Schema;
  /** Where the references are, those in lists too. */
  readonly referring: readonly Path[];
  /** The fields that some rule holds against others, or that others are worked out from. */
  readonly tied: readonly Path[];
  readonly carrier: Carrier;
  readonly reasoner: Reasoner;
  /** The rules of one field alone that a value of it would break. */
  brokenWith(path: Path, value: Value): readonly string[];
  readonly grammars: Grammars;
  /** Notes that so many inputs of a constraint were left out, as they would be too many. */
  leaveOut(constraint: string, count: number): void;
}

/**
 * A case before it has an id and an expected verdict. Without `before`, the rows that the base refers to; without `does`,
 * a new record.
 */
export interface Draft {
  readonly constraint: string;
  readonly reason: string;
  readonly wire: Wire;
  readonly input: unknown;
  readonly before?: readonly Stored[];
  readonly does?: Exclude<Operation, 'insert'>;
  readonly existing?: Row;
  /** The verdict to expect, where it is not the one over what is sent. */
  readonly expected?: Verdict;
}

/** One coverage criterion: the inputs that it asks for. */
export type Criterion = (context: Context) => readonly Draft[];

/** What a wire carries for a record; unlike `encode`, absent fields are there on the form and row wires: as an empty text, as NULL. */
export function carried(context: Context, row: Row, wire: Wire): { [name: string]: unknown } {
  return context.carrier.carried(row, wire);
}

/**
 * The base with some fields changed, on each of the wires. Where that breaks a rule that it is not about, other fields
 * are changed too, so that a refusal has one reason.
 */
export function changed(
  context: Context,
  changes: Row,
  about: { readonly constraint: string; readonly reason: string },
  on: readonly Wire[] = wires,
): readonly Draft[] {
  const paths = Object.keys(changes);
  const moved = applied(context.base, changes);
  // Of a field that no rule holds against others, nothing else can be changed to any use.
  const row = isAmong(context.tied, paths) ? context.settle(moved, paths, about.constraint) : moved;
  const before = isAmong(context.referring, paths) ? { before: context.targets(row) } : {};
  return on.map((wire) => ({ ...about, ...before, wire, input: carried(context, row, wire) }));
}

/** True where one of some fields is at one of the paths, within what is there, or around it. */
function isAmong(fields: readonly Path[], paths: readonly Path[]): boolean {
  return fields.some((field) => paths.some((path) => isWithin(field, path) || isWithin(path, field)));
}

function isWithin(inner: Path, outer: Path): boolean {
  if (!inner.startsWith(outer)) return false;
  return inner.length === outer.length || /[.[]/.test(inner.charAt(outer.length));
}

/** The base on one wire with one raw entry, whatever it is; undefined leaves the key out. */
export function rawEntry(
  context: Context,
  wire: Wire,
  path: string,
  raw: unknown,
  about: { readonly constraint: string; readonly reason: string },
): Draft {
  const input = carried(context, context.base, wire);
  putRaw(input, path, raw, wire);
  return { ...about, wire, input, before: context.before };
}

/** A record with other values, by path. */
export function applied(row: Row, changes: Row): Row {
  return Object.entries(changes).reduce((changed, [path, value]) => withValue(changed, path, value), row);
}

/** The context with a base in which some fields are given, where there is a valid one; as it is where there is none. */
export function givenIn(context: Context, paths: readonly Path[]): Context {
  const missing = paths.filter((path) => listsOf(path).length === 0 && valueAt(context.base, path) === null);
  if (missing.length === 0) return context;
  const tries = Math.max(...missing.map((path) => context.choices.get(path)?.length ?? 0));
  for (let at = 0; at < Math.min(tries, MOST_GIVEN); at += 1) {
    const values = missing.map((path) => {
      const choices = (context.choices.get(path) ?? []).filter((value) => value !== null);
      return [path, choices[at % Math.max(choices.length, 1)] ?? null] as const;
    });
    const row = context.settle(applied(context.base, Object.fromEntries(values)), missing, '');
    if (brokenRules(context, row).length === 0) return { ...context, base: row, before: context.targets(row) };
  }
  return context;
}

/** The base's value of a field, or a likely one where no valid base has any. */
export function likelyValue({ base, choices }: Context, path: Path): Value {
  return valueAt(base, path) ?? (choices.get(path) ?? []).find((value) => value !== null) ?? null;
}

/** So many values of an absent field are tried for a base in which it is given. */
const MOST_GIVEN = 6;

/** The rules that a record of canonical values breaks, look-ups apart. */
export function brokenRules({ decide, model }: Pick<Context, 'decide' | 'model'>, row: Row): readonly string[] {
  const verdict = decide(row, 'row', { clock: caseClock(model) });
  return 'refused' in verdict ? verdict.refused.map(({ rule }) => rule) : [];
}

/** The facet constraint of a field, or the field's own type where it has no such facet. */
export function facetOf(context: Context, path: string, facet: string): string {
  const id = `${context.model.ruleset}.${path}.${facet}`;
  return context.model.constraints.some((one) => one.id === id) ? id : `${context.model.ruleset}.${path}.type`;
}
