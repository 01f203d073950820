import { canonicalValue, type KnownField, targetOf } from '../kinds/index.js';
import { type ClockReading, encode, judgingFor, readClock } from '../meaning/index.js';
import {
  type Constraint,
  fieldAt,
  listsOf,
  randomFrom,
  seedOf,
  type Value,
  valueAt,
  withValue,
} from '../model/index.js';
import { isLookup } from '../operators/index.js';
import { caseClock } from './clock.js';
import type { Context, Draft } from './context.js';
import { drawnValue } from './draw.js';
import { carriedRow, putRaw, rawAt } from './places.js';

/** So many values are drawn for a case before it keeps the base's. */
const MOST_DRAWN = 8;

/**
 * Gives every case values of its own where records must differ, so that cases can be stored one after the other: each
 * unique rule gets another value in one of its fields. What a case is about stays as it is, and so does a case with a
 * stored record of its own kind, which must meet it.
 */
export class Fresh {
  readonly #context: Context;
  readonly #fields: readonly KnownField[];
  readonly #taken = new Set<string>();
  readonly #rules = new Map<string, readonly Constraint[]>();
  readonly #linked = new Map<string, readonly string[]>();
  readonly #clock: ClockReading;
  /** What the base carries on each wire. */
  readonly #standard = new Map<string, { readonly [name: string]: unknown }>();

  constructor(context: Context) {
    this.#context = context;
    this.#clock = readClock(caseClock(context.model), context.model.zone);
    const { model, base } = context;
    const paths = model.constraints.flatMap(({ predicate }) => {
      if (predicate.op !== 'unique' || predicate.of.some((path) => listsOf(path).length > 0)) return [];
      const isOwn = (path: string) => targetOf(fieldAt(model, path)) === null && valueAt(base, path) !== null;
      return predicate.of.filter(isOwn).slice(-1);
    });
    this.#fields = [...new Set(paths)].map((path) => fieldAt(model, path));
  }

  /** The draft with values of its own, the same ones for the same id. */
  freshened(draft: Draft, id: string): Draft {
    const { model } = this.#context;
    const isMet =
      draft.existing !== undefined || draft.before?.some(({ ruleset }) => ruleset === model.ruleset) === true;
    if (isMet || typeof draft.input !== 'object' || draft.input === null || Array.isArray(draft.input)) return draft;
    const subjects = model.constraints.find((one) => one.id === draft.constraint)?.subjects ?? [];
    const input = { ...draft.input } as { [name: string]: unknown };
    for (const field of this.#fields) if (!subjects.includes(field.path)) this.#give(field, input, draft, id);
    return { ...draft, input };
  }

  /** Puts another value in a field that has the base's there, where the base would be as valid with it. */
  #give({ path }: KnownField, input: { [name: string]: unknown }, { wire }: Draft, id: string): void {
    const { model, base } = this.#context;
    const standard = this.#standard.get(wire) ?? carriedRow(model, base, wire);
    this.#standard.set(wire, standard);
    const isStandard = (one: string) => rawAt(input, one, wire) === rawAt(standard, one, wire);
    if (!isStandard(path) || !this.#linkedTo(path).every(isStandard)) return;
    const value = this.#drawn(path, id);
    if (value !== null) putRaw(input, path, rawAt(encode(model, withValue({}, path, value), wire), path, wire), wire);
  }

  /** The fields that a rule holds against this one: where a case changes one of them, this one stays. */
  #linkedTo(path: string): readonly string[] {
    const known = this.#linked.get(path);
    if (known !== undefined) return known;
    const { constraints } = this.#context.model;
    const linked = constraints.filter(({ facet, predicate, subjects }) => {
      return !facet && !isLookup(predicate) && subjects.includes(path);
    });
    const paths = new Set(linked.flatMap(({ subjects }) => subjects).filter((one) => listsOf(one).length === 0));
    this.#linked.set(path, [...paths]);
    return [...paths];
  }

  /** True where the base with that value would keep every rule that mentions the field. */
  #keeps(path: string, value: Value): boolean {
    const { model, base } = this.#context;
    if (canonicalValue(fieldAt(model, path), value) !== value) return false;
    const isAbout = ({ owner, subjects, facet, predicate }: Constraint) =>
      !isLookup(predicate) && (facet ? owner === path : subjects.includes(path));
    const rules = this.#rules.get(path) ?? model.constraints.filter(isAbout);
    this.#rules.set(path, rules);
    const judging = judgingFor(model, withValue(base, path, value), this.#clock);
    return rules.every(({ predicate, over }) => over !== null || judging.truth(predicate) !== false);
  }

  #drawn(path: string, id: string): Value {
    const context = this.#context;
    const field = fieldAt(context.model, path);
    const random = randomFrom(seedOf(`${id} ${path}`));
    for (let tried = 0; tried < MOST_DRAWN; tried += 1) {
      const value = drawnValue(field, random, context.routesOf);
      const key = JSON.stringify([path, value]);
      if (value === null || value === valueAt(context.base, path) || this.#taken.has(key)) continue;
      if (!this.#keeps(path, value)) continue;
      this.#taken.add(key);
      return value;
    }
    return null;
  }
}
