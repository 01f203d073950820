import {
  type Field,
  fieldAt,
  type Indices,
  listsOf,
  type Model,
  noIndices,
  type Path,
  pointerToPath,
  type Row,
  type Value,
} from '../model/index.js';
import { type Judging, judge, valueOfTerm } from '../operators/index.js';
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
}

/** A canonical record, as it is judged where nothing is wrong with how it came. */
export function judgedAlone(model: Model, row: Row, clock: Reading): Judged {
  const none = new Set<string>();
  const decoding: Decoding = { values: row, refused: none, over: none, missing: none, strange: new Map() };
  return { model, decoding, canonical: { row, notCanonical: none }, store: null, clock };
}

/** The value at a path of a record, at one item of each list on the way; null where something on the way is absent. */
export function valueIn(row: Row, path: Path, indices: Indices): Value {
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
export function instancesOf(row: Row, path: Path, indices: Indices = noIndices): readonly Indices[] {
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
  return instancesOf(row, path, indices).map((instance) => pointerToPath(path, instance));
}

/** What operators ask of a record, at some item of each list. */
export function judgingOf(judged: Judged, indices: Indices = noIndices, row: Row = judged.canonical.row): Judging {
  const { model, decoding, canonical, store } = judged;
  const judging: Judging = {
    value: (path) => {
      const { derivation } = fieldOf(model, path);
      return derivation === null ? valueIn(row, path, indices) : valueOfTerm(derivation, judging);
    },
    count: (list) => countIn(row, list, indices),
    within: (list, index) => judgingOf(judged, new Map([...indices, [list, index]]), row),
    indexIn: (list) => indices.get(list) ?? 0,
    on: (other) => judgingOf(judged, indices, other),
    term: (term) => valueOfTerm(term, judging),
    truth: (predicate) => judge(predicate, judging),
    refusedAtDecode: (path) => decoding.refused.has(pointerToPath(path, indices)),
    notCanonical: (path) => canonical.notCanonical.has(pointerToPath(path, indices)),
    strangeKeys: decoding.strange.size > 0,
    overLimits: decoding.over.size > 0,
    clock: judged.clock,
    call: (name, values) => model.functions[name]?.(...values),
    stored: (ruleset) => store?.(ruleset ?? model.ruleset) ?? null,
  };
  return judging;
}

function fieldOf(model: Model, path: Path): Field {
  return fieldAt(model, path);
}
