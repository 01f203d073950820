import { decider } from '../decider/index.js';
import type { Schema } from '../declare/index.js';
import { targetOf } from '../kinds/index.js';
import { problemsOf } from '../messages/index.js';
import { allFields, type Case, type Path, type Row, withValue } from '../model/index.js';
import { isLookup } from '../operators/index.js';
import { Reasoner } from '../reason/index.js';
import { Bases, type Beside, itemKey, type Start, targetsNamed } from './base.js';
import { Carrier } from './carrier.js';
import { caseClock } from './clock.js';
import { Contents } from './contents.js';
import type { Context, Criterion, Draft, Stored } from './context.js';
import { criteria } from './criteria.js';
import { finished, storeOf } from './finished.js';
import { Fresh } from './fresh.js';
import { asOnPage, pageCriteria, pageEntries, withoutPageRules } from './page-only.js';
import { isStorable } from './storable.js';
import { storedFormCriteria, withoutStoredForms, withStoredForms } from './stored-forms.js';
import { withoutRepeats } from './stored-rows.js';
import { Taken } from './taken.js';
import { witnesses } from './witnesses.js';

/** Far enough from the first seed that the samples of both share no value. */
const OTHER_SEED = 11;

/** The boundary cases of a ruleset, and how many inputs of each constraint were left out, as they would be too many. */
export interface CaseSet {
  readonly ruleset: string;
  readonly cases: readonly Case[];
  readonly leftOut: ReadonlyMap<string, number>;
  /** The constraints of which some inputs need stored rows that can't be told apart. */
  readonly crowded: ReadonlySet<string>;
  /** The rulesets of which some rows that cases refer to can't be told apart. */
  readonly crowdedTargets: ReadonlySet<string>;
}

/**
 * The boundary cases of one ruleset of a schema, with the verdict that the meaning gives each, criterion by criterion. The
 * same schema gives the same cases with the same ids; a rule that changes changes those that are about it, and others only
 * where the valid record that they start from must be another one.
 *
 * @throws ProblemError `no_base` where no valid record was found to start from
 */
export function casesFor(model: Schema[number], schema: Schema): readonly Case[] {
  return caseSetFor(model, schema).cases;
}

/**
 * The same of several rulesets of a schema, one set each: what they have in common is worked out once.
 *
 * @param beside rows that are stored already where the cases go: none repeats them
 * @param start whether the record that cases start from has its optional fields
 * @throws ProblemError `no_base` where no valid record was found to start from
 */
export function caseSetsFor(
  asked: Schema,
  schema: Schema,
  beside: Beside = new Map(),
  start: Start = 'optional absent',
): readonly CaseSet[] {
  const bases = new Bases(schema, beside, start);
  return asked.map((model) => caseSetFor(model, schema, bases));
}

/** The same of one, with what was left out. */
export function caseSetFor(model: Schema[number], schema: Schema, bases = new Bases(schema)): CaseSet {
  const leftOut = new Map<string, number>();
  const context = contextFor(model, bases, leftOut);
  const page = pageContext(model, schema, leftOut);
  const entries = page === null ? {} : pageEntries(model, context.base, page);
  const contents = new Contents();
  const onServer = new Writing(context, 'server', entries, contents);
  const usual = onServer.cases(criteria);
  const refusals = usual.flatMap(({ expected }) => ('refused' in expected ? [expected.refused] : []));
  const broken = new Set(refusals.flat().map(({ rule }) => rule));
  const alone = new Set(refusals.flatMap((refused) => (refused.length === 1 ? refused.map(({ rule }) => rule) : [])));
  return {
    ruleset: model.ruleset,
    cases: [
      ...usual,
      ...onServer.cases({ witnesses: () => witnesses(context, { broken, alone }) }),
      ...(page === null ? [] : new Writing(page, 'client', {}, contents).cases(pageCriteria(model))),
      ...storedFormCases(model, bases, leftOut),
    ],
    leftOut,
    crowded: onServer.crowded,
    crowdedTargets: bases.crowded,
  };
}

/** The cases of what tables hold in the place of secrets. */
function storedFormCases(model: Schema[number], bases: Bases, leftOut: Map<string, number>): readonly Case[] {
  const written = withStoredForms(model);
  if (written === null) return [];
  const withWritten = bases.over(bases.schema.map((one) => (one === model ? written : one)));
  try {
    return new Writing(contextFor(written, withWritten, leftOut), 'server', {}, new Contents())
      .cases(storedFormCriteria(model))
      .map((one) => withoutStoredForms(one, model));
  } catch (error) {
    if (problemsOf(error)?.some(({ code }) => code === 'no_base') !== true) throw error;
    // No stored form was found that keeps every rule of its own.
    return [];
  }
}

/** A ruleset as its page has it; null where the server has all of it. */
function pageContext(model: Schema[number], schema: Schema, leftOut: Map<string, number>): Context | null {
  const onPage = asOnPage(model);
  if (onPage === null) return null;
  const within = (page: Schema[number]) =>
    contextFor(page, new Bases(schema.map((one) => (one === model ? page : one))), leftOut);
  try {
    return within(onPage);
  } catch (error) {
    if (problemsOf(error)?.some(({ code }) => code === 'no_base') !== true) throw error;
    // The page's rules over several fields contradict others: its fields by themselves have edges all the same.
    return within(withoutPageRules(onPage, model));
  }
}

/** Writes drafts as cases: each content once, numbered by what it is about. */
class Writing {
  readonly crowded = new Set<string>();
  readonly #storable = new WeakMap<readonly Stored[], boolean>();
  readonly #counts = new Map<string, number>();
  readonly #context: Context;
  readonly #on: Case['on'];
  readonly #entries: { readonly [name: string]: unknown };
  readonly #contents: Contents;
  readonly #fresh: Fresh;

  /** @param entries what is sent with every form */
  constructor(context: Context, on: Case['on'], entries: { readonly [name: string]: unknown }, contents: Contents) {
    this.#context = context;
    this.#on = on;
    this.#entries = entries;
    this.#contents = contents;
    this.#fresh = new Fresh(context);
  }

  cases(asked: { readonly [name: string]: Criterion }): readonly Case[] {
    const context = this.#context;
    const { model, decide } = context;
    const usual = storeOf(context.before);
    return Object.entries(asked).flatMap(([criterion, drafts]) => {
      const place = criterion.replaceAll(' ', '-');
      return drafts(context).flatMap((draft) => {
        const before = draft.before ?? context.before;
        if (!this.#isStorable(before, draft.existing)) {
          this.crowded.add(draft.constraint);
          return [];
        }
        if (!this.#contents.isNew(draft, before)) return [];
        const id = this.#idOf(draft, place);
        const input = withEntries(draft, this.#fresh.freshened(draft, id), this.#entries);
        const store = before === context.before ? usual : storeOf(before);
        return [finished(draft, { id, criterion, before, on: this.#on, input }, model, decide, store)];
      });
    });
  }

  /** True where the rows can be stored one after the other, the record that is changed last. */
  #isStorable(before: readonly Stored[], existing?: Row): boolean {
    const { model, schema } = this.#context;
    if (existing !== undefined) return isStorable(schema, [...before, { ruleset: model.ruleset, row: existing }]);
    const known = this.#storable.get(before) ?? isStorable(schema, before);
    this.#storable.set(before, known);
    return known;
  }

  #idOf({ constraint, wire }: Draft, criterion: string): string {
    const place = `${constraint}/${criterion}/${wire}`;
    const count = (this.#counts.get(place) ?? 0) + 1;
    this.#counts.set(place, count);
    return `${place}/${count}`;
  }
}

/** What a draft sends; of a form, with what only the page has. */
function withEntries({ wire, does }: Draft, input: unknown, entries: { readonly [name: string]: unknown }): unknown {
  if (wire !== 'form' || does === 'patch' || typeof input !== 'object' || input === null) return input;
  return withMissing(input, Object.entries(entries));
}

function withMissing(input: object, entries: readonly (readonly [name: string, value: unknown])[]): object {
  const missing = entries.filter(([name]) => !Object.hasOwn(input, name));
  return missing.length === 0 ? input : { ...input, ...Object.fromEntries(missing) };
}

function tiedIn({ constraints }: Schema[number]): readonly Path[] {
  const tying = constraints.filter(
    ({ predicate, facet, owner, subjects }) =>
      !isLookup(predicate) && (!facet || subjects.some((subject) => subject !== owner)),
  );
  return [...new Set(tying.flatMap(({ subjects }) => subjects))];
}

/** The record, with other values where it would repeat a stored one of its ruleset. */
function unlike(bases: Bases, model: Schema[number], row: Row, stored: readonly Stored[]): Row {
  const own = stored.filter(({ ruleset }) => ruleset === model.ruleset).map((one) => one.row);
  const there = bases.beside(model.ruleset);
  if (own.length + there.length === 0) return row;
  const taken = new Taken(model, [...there, ...own]);
  return withoutRepeats(bases, model, row, taken, []);
}

/** A valid record that shares no unique value with the base, nor with what is stored, and the rows behind it. */
function otherThan(bases: Bases, model: Schema[number], base: Row, before: readonly Stored[]) {
  const { row, before: behind } = bases.of(model, OTHER_SEED);
  const other = unlike(bases, model, row, [...before, ...behind, { ruleset: model.ruleset, row: base }]);
  return { row: other, before: other === row ? behind : targetsNamed(other, model, bases) };
}

function contextFor(model: Schema[number], bases: Bases, leftOut: Map<string, number>): Context {
  const { schema } = bases;
  const { row, before: behind, choices, settle } = bases.of(model, 0);
  const base = unlike(bases, model, row, behind);
  const before = base === row ? behind : targetsNamed(base, model, bases);
  const other = otherThan(bases, model, base, before);
  const clock = caseClock(model);
  const own = {
    ...model,
    constraints: model.constraints.filter(({ facet, predicate }) => facet && !isLookup(predicate)),
  };
  const decideOwn = decider(own);
  return {
    model,
    schema,
    base,
    before,
    choices,
    settle,
    decide: bases.deciderOf(model),
    targets: (row) => targetsNamed(row, model, bases),
    keyFor: (field, at) => itemKey(field, model, bases, at),
    beside: (ruleset) => bases.beside(ruleset),
    other: other.row,
    otherBefore: other.before,
    referring: allFields(model)
      .filter((field) => targetOf(field) !== null)
      .map(({ path }) => path),
    tied: tiedIn(model),
    carrier: new Carrier(model),
    grammars: bases.grammars,
    reasoner: new Reasoner(model, bases.languages),
    brokenWith(path, value) {
      const verdict = decideOwn(withValue(base, path, value), 'row', { clock });
      const broken = 'refused' in verdict ? verdict.refused : [];
      return broken
        .map(({ rule }) => rule)
        .filter((id) => own.constraints.some((one) => one.id === id && one.owner === path));
    },
    leaveOut: (constraint, count) => {
      if (count > 0) leftOut.set(constraint, (leftOut.get(constraint) ?? 0) + count);
    },
  };
}
