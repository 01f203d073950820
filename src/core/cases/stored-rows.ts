import type { Schema } from '../declare/index.js';
import { canonicalValue, type KnownField, sampleOf, targetOf } from '../kinds/index.js';
import { derive, judgingFor } from '../meaning/index.js';
import { fieldAt, type Path, type Row, randomFrom, seedOf, type Value, valueAt, withValue } from '../model/index.js';
import { isLookup, sourcesOf } from '../operators/index.js';
import type { Bases } from './base.js';
import { caseClock } from './clock.js';
import type { Stored } from './context.js';
import { drawnValue } from './draw.js';
import { namedBy } from './storable.js';
import { Taken } from './taken.js';

type Model = Schema[number];

/** A row that a reference can name. */
export interface Target {
  readonly key: Value;
}

/** Rows for keys that nothing else gives come from this seed on. */
const FIRST_FOR_KEYS = 60;
/** So many values are drawn for a field before a row keeps one that is taken. */
const MOST_DRAWN = 60;

/** The stored rows that records refer to, one for each key; no two of a ruleset share what must be unique. */
export class StoredRows {
  readonly #bases: Bases;
  readonly #byKey = new Map<string, Row | null>();
  readonly #bySeed = new Map<string, Target>();
  readonly #targets = new Map<string, Target>();
  readonly #taken = new Map<string, Taken>();
  #forKeys = FIRST_FOR_KEYS;

  constructor(bases: Bases) {
    this.#bases = bases;
  }

  bySeed(model: Model, seed: number): Target {
    const place = `${model.ruleset} ${seed}`;
    const known = this.#bySeed.get(place);
    if (known !== undefined) return known;
    const { row } = this.#bases.of(model, seed, 'required');
    const made = withoutRepeats(this.#bases, model, withKey(model, row, seed), this.#takenOf(model), []);
    // Where no more rows can be told apart, existing ones are used again.
    const other = this.#targets.get(model.ruleset);
    if (other !== undefined && this.#takenOf(model).brokenBy(made).length > 0) {
      this.#bases.crowded.add(model.ruleset);
      return other;
    }
    this.#keep(model, made);
    const target = { key: valueAt(made, model.key ?? '') };
    this.#bySeed.set(place, target);
    this.#targets.set(model.ruleset, target);
    return target;
  }

  byKey(model: Model, key: Value): readonly Stored[] {
    return this.#behind(model, key, new Set());
  }

  /** The row of a key, after the rows that it refers to; of rows that name each other in a circle each once. */
  #behind(model: Model, key: Value, met: Set<string>): readonly Stored[] {
    const place = placeOf(model, key);
    if (met.has(place)) return [];
    met.add(place);
    const row = this.#rowOf(model, key);
    if (row === null) return [];
    const before = namedBy(row, model).flatMap(([to, named]) => {
      const target = this.#bases.schema.find(({ ruleset }) => ruleset === to);
      return target === undefined ? [] : this.#behind(target, named, met);
    });
    return [...before, { ruleset: model.ruleset, row }];
  }

  /** The row of a key, made once; null where no valid row has it. */
  #rowOf(model: Model, key: Value): Row | null {
    const place = placeOf(model, key);
    const known = this.#byKey.get(place);
    if (known !== undefined) return known;
    // Whoever asks for it while it is made gets none.
    this.#byKey.set(place, null);
    const row = this.#made(model, key);
    if (row === null) return null;
    this.#keep(model, row);
    return row;
  }

  #made(model: Model, key: Value): Row | null {
    const path = model.key ?? '';
    const there = this.#bases.beside(model.ruleset).find((row) => valueAt(row, path) === key);
    if (there !== undefined) return there;
    this.#forKeys += 1;
    const row = withValue(this.#bases.of(model, this.#forKeys, 'required').row, path, key);
    if (!mayHold(this.#bases, model, row, path)) return null;
    const taken = this.#takenOf(model);
    const made = withoutRepeats(this.#bases, model, row, taken, [path]);
    if (taken.brokenBy(made).length === 0) return made;
    this.#bases.crowded.add(model.ruleset);
    return null;
  }

  #keep(model: Model, row: Row): void {
    this.#takenOf(model).take(row);
    this.#byKey.set(placeOf(model, valueAt(row, model.key ?? '')), row);
  }

  #takenOf(model: Model): Taken {
    const known = this.#taken.get(model.ruleset);
    if (known !== undefined) return known;
    const taken = new Taken(model, this.#bases.beside(model.ruleset));
    this.#taken.set(model.ruleset, taken);
    return taken;
  }
}

function placeOf({ ruleset }: Model, key: Value): string {
  return JSON.stringify([ruleset, key]);
}

/** True where a row with its key keeps every rule; a key that the store gives must be one that it may give. */
function mayHold(bases: Bases, model: Model, row: Row, path: Path): boolean {
  const field = fieldAt(model, path);
  if (field.generated === null) return bases.brokenBy(model, row).length === 0;
  const key = valueAt(row, path);
  if (field.derivation !== null) return derive(model, row, caseClock(model))[path] === key;
  if (field.generated === 'identity' && Number(key) < 1) return false;
  const judging = judgingFor(model, row, caseClock(model));
  const own = model.constraints.filter(
    ({ owner, facet, predicate }) => facet && owner === path && !isLookup(predicate),
  );
  return canonicalValue(field, key) === key && own.every(({ predicate }) => judging.truth(predicate) !== false);
}

/**
 * A record with other values in unique rules, where it would repeat a record that is taken; as far as other values are
 * found that keep every rule.
 *
 * @param fixed the fields that stay
 */
export function withoutRepeats(bases: Bases, model: Model, start: Row, taken: Taken, fixed: readonly Path[]): Row {
  let row = start;
  const kept = new Set(fixed.flatMap((path) => [path, ...sourcesOf(path, model)]));
  for (const { id, predicate } of taken.brokenBy(start)) {
    if (predicate.op !== 'unique') continue;
    const free = predicate.of.flatMap((path) => sourcesOf(path, model)).filter((path) => !kept.has(path));
    row = withOthers(bases, model, row, taken, free, id) ?? row;
  }
  return row;
}

function withOthers(
  bases: Bases,
  model: Model,
  row: Row,
  taken: Taken,
  paths: readonly Path[],
  rule: string,
): Row | null {
  for (const path of paths.filter((one) => !one.includes('['))) {
    const field = fieldAt(model, path);
    const random = randomFrom(seedOf(`${rule} ${path} ${JSON.stringify(row)}`));
    for (let tried = 0; tried < MOST_DRAWN; tried += 1) {
      const value = otherValue(bases, model, field, tried, random);
      if (value === null) break;
      const next = derivedAgain(model, withValue(row, path, value));
      const isFree = !taken.brokenBy(next).some(({ id }) => id === rule);
      if (isFree && bases.brokenBy(model, sentOf(model, next)).length === 0) return next;
    }
  }
  return null;
}

/** A record whose derived values, as far as it has any, follow from the others. */
function derivedAgain(model: Model, row: Row): Row {
  const derived = Object.entries(derive(model, row, caseClock(model)));
  return { ...row, ...Object.fromEntries(derived.filter(([name]) => row[name] != null)) };
}

/** What is sent of a stored row: what the store gives comes in from nobody. */
function sentOf({ fields }: Model, row: Row): Row {
  return Object.fromEntries(Object.entries(row).filter(([name]) => fields[name]?.generated == null));
}

function otherValue(
  bases: Bases,
  model: Model,
  field: KnownField,
  tried: number,
  random: ReturnType<typeof randomFrom>,
): Value {
  const to = targetOf(field)?.to;
  if (to === undefined) return drawnValue(field, random, bases.grammars);
  const target = bases.schema.find(({ ruleset }) => ruleset === to);
  // Rows of the same ruleset would lead on to more of them.
  return target === undefined || target === model ? null : bases.target(target, FIRST_FOR_KEYS - 1 - (tried % 20)).key;
}

/** Keys that a store counts in cases are far from those that it counts to, unless its column ends before. */
const COUNTED_FROM = 1_999_999_000;
const MOST_COUNTED = 1_000;

function countedKey({ facets }: KnownField, seed: number): number {
  const most = Math.min(Number(facets.max ?? Number.POSITIVE_INFINITY), COUNTED_FROM + MOST_COUNTED);
  return Math.max(most - MOST_COUNTED, 1) + seed;
}

/** A record with the key that its store gives it, where nobody sends one: so that others can name it. */
function withKey(model: Model, row: Row, seed: number): Row {
  const field = model.key === null ? null : fieldAt(model, model.key);
  if (field === null || field.generated === null) return row;
  if (field.derivation !== null) return { ...row, ...derive(model, row, caseClock(model)) };
  return withValue(row, field.path, field.generated === 'identity' ? countedKey(field, seed) : sampleOf(field, seed));
}
