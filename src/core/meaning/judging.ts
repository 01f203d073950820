import {
  fieldAt,
  type Indices,
  listsOf,
  type Model,
  noIndices,
  type Path,
  type Pattern,
  type Predicate,
  pointerToPath,
  type Row,
  type Term,
  type Value,
} from '../model/index.js';
import { type Judging, judge, type Truth, valueOfTerm, wholeValue } from '../operators/index.js';
import type { Canonical } from './canonicalise.js';
import type { Reading } from './clock.js';
import type { Decoding } from './decode.js';

/** The stored rows that look-ups are judged on: those of a ruleset, without the record that is being written. */
export type Store = (ruleset: string) => readonly Row[];

/** A record that is being judged. */
export interface Judged {
  readonly model: Model;
  readonly decoding: Decoding;
  readonly canonical: Canonical;
  readonly store: Store | null;
  readonly clock: Reading;
  readonly matchers: Matchers;
  /** Where each value is first in a list, by row, and by the list, the outer items and the path: read once, not once an item. */
  readonly firstPlaces: WeakMap<Row, Map<string, ReadonlyMap<Value, number>>>;
}

/** Patterns as they are held against whole values, each made ready once. */
export type Matchers = Map<Pattern, RegExp>;

/** A canonical record, as it is judged where nothing is wrong with how it came. */
export function judgedAlone(model: Model, row: Row, clock: Reading, matchers: Matchers = new Map()): Judged {
  const none = new Set<string>();
  const decoding: Decoding = {
    refused: none,
    over: none,
    missing: none,
    unknownKeys: new Map(),
  };
  return {
    model,
    decoding,
    canonical: { row, notCanonical: none },
    store: null,
    clock,
    matchers,
    firstPlaces: new WeakMap(),
  };
}

/** The value at a path of a record, at one item of each list on the way; null where something on the way is absent. */
export function valueIn(row: Row, path: Path, indices: Indices): Value {
  if (!path.includes('.') && !path.includes('[')) return Object.hasOwn(row, path) ? (row[path] ?? null) : null;
  let value: Value = row;
  let walked = '';
  for (const step of path.split('.')) {
    const name = step.replaceAll('[]', '');
    walked = walked === '' ? name : `${walked}.${name}`;
    value = isRow(value) && Object.hasOwn(value, name) ? (value[name] ?? null) : null;
    for (let depth = name.length; depth < step.length; depth += 2) {
      value = Array.isArray(value) ? (value[indices.get(walked) ?? -1] ?? null) : null;
      walked += '[]';
    }
  }
  return value;
}

function isRow(value: Value): value is Row {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

function countIn(row: Row, list: Path, indices: Indices): number {
  const value = valueIn(row, list, indices);
  return Array.isArray(value) ? value.length : 0;
}

/** Every way to choose an item of each list that a path leads through and that `indices` leaves open. */
export function instancesOf(row: Row, path: Path, indices: Indices = noIndices()): readonly Indices[] {
  if (!path.includes('[')) return [indices];
  return listsOf(path).reduce<readonly Indices[]>(
    (chosen, list) =>
      chosen.flatMap((before) =>
        before.has(list)
          ? [before]
          : Array.from({ length: countIn(row, list, before) }, (_, index) => new Map([...before, [list, index]])),
      ),
    [indices],
  );
}

/** The pointers of a path, one an instance. */
export function pointersOf(row: Row, path: Path, indices: Indices): readonly string[] {
  if (!path.includes('[')) return [pointerToPath(path)];
  return instancesOf(row, path, indices).map((instance) => pointerToPath(path, instance));
}

/** What operators ask of a record, at some item of each list. */
export function judgingOf(judged: Judged, indices: Indices = noIndices(), row: Row = judged.canonical.row): Judging {
  return new RecordJudging(judged, indices, row);
}

/** A class, as one is made for every constraint at every place: its methods are shared. */
class RecordJudging implements Judging {
  readonly #judged: Judged;
  readonly #indices: Indices;
  readonly #row: Row;

  constructor(judged: Judged, indices: Indices, row: Row) {
    this.#judged = judged;
    this.#indices = indices;
    this.#row = row;
  }
  value(path: Path): Value {
    const { model } = this.#judged;
    const top = Object.hasOwn(model.fields, path) ? model.fields[path] : undefined;
    // Most of what is asked is at the top, as it came.
    if (top !== undefined && top.derivation === null)
      return Object.hasOwn(this.#row, path) ? (this.#row[path] ?? null) : null;
    const { derivation } = fieldAt(model, path);
    return derivation === null ? valueIn(this.#row, path, this.#indices) : valueOfTerm(derivation, this);
  }
  count(list: Path): number {
    return countIn(this.#row, list, this.#indices);
  }
  within(list: Path, index: number): Judging {
    return judgingOf(this.#judged, new Map([...this.#indices, [list, index]]), this.#row);
  }
  firstWith(list: Path, path: Path, value: Value): number {
    const { firstPlaces } = this.#judged;
    const ofRow = firstPlaces.get(this.#row) ?? new Map<string, ReadonlyMap<Value, number>>();
    firstPlaces.set(this.#row, ofRow);
    const outer = listsOf(list).map((one) => this.#indices.get(one) ?? '');
    const key = [list, path, ...outer].join(' ');
    const places = ofRow.get(key) ?? this.#placesIn(list, path);
    ofRow.set(key, places);
    return places.get(value) ?? -1;
  }
  #placesIn(list: Path, path: Path): ReadonlyMap<Value, number> {
    const places = new Map<Value, number>();
    for (let index = 0; index < this.count(list); index += 1) {
      const value = this.within(list, index).value(path);
      if (!places.has(value)) places.set(value, index);
    }
    return places;
  }
  indexIn(list: Path): number {
    return this.#indices.get(list) ?? 0;
  }
  on(other: Row): Judging {
    return judgingOf(this.#judged, this.#indices, other);
  }
  matcher(pattern: Pattern): RegExp {
    const { matchers } = this.#judged;
    const known = matchers.get(pattern);
    if (known !== undefined) return known;
    const matcher = wholeValue(pattern);
    matchers.set(pattern, matcher);
    return matcher;
  }
  term(term: Term): Value {
    // Most terms are a field.
    return term.term === 'field' ? this.value(term.path) : valueOfTerm(term, this);
  }
  truth(predicate: Predicate): Truth {
    return judge(predicate, this);
  }
  refusedAtDecode(path: Path): boolean {
    const { refused } = this.#judged.decoding;
    return refused.size > 0 && refused.has(pointerToPath(path, this.#indices));
  }
  notCanonical(path: Path): boolean {
    const { notCanonical } = this.#judged.canonical;
    return notCanonical.size > 0 && notCanonical.has(pointerToPath(path, this.#indices));
  }
  get hasUnknownKeys(): boolean {
    return this.#judged.decoding.unknownKeys.size > 0;
  }
  get overLimits(): boolean {
    return this.#judged.decoding.over.size > 0;
  }
  get clock(): Reading {
    return this.#judged.clock;
  }
  call(name: string, values: readonly Value[]): unknown {
    return this.#judged.model.functions[name]?.(...values);
  }
  get ruleset(): string {
    return this.#judged.model.ruleset;
  }
  stored(ruleset: string | null): readonly Row[] | null {
    const { store, model } = this.#judged;
    return store?.(ruleset ?? model.ruleset) ?? null;
  }
}
