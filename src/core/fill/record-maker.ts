import type { Bases } from '../cases/base.js';
import type { Grammars } from '../cases/grammars.js';
import type { Taken } from '../cases/taken.js';
import type { Schema } from '../declare/index.js';
import { isScalar, type KnownField, targetOf } from '../kinds/index.js';
import {
  type Constraint,
  fieldAt,
  isSent,
  listsOf,
  type Path,
  type Row,
  randomFrom,
  seedOf,
  type Value,
  valueAt,
  withValue,
} from '../model/index.js';
import { seriesOf } from './series.js';
import { type Making, makingOf, recordFor, valueFor } from './values.js';
import type { Words } from './words.js';

/** So often is a record begun anew, and so often are single fields drawn again before others give way. */
const MOST_BEGUN = 12;
const MOST_REDRAWN = 24;

export interface Maker {
  readonly model: Schema[number];
  readonly bases: Bases;
  readonly words: Words;
  readonly taken: Taken;
  readonly seed: number;
  readonly grammars: Grammars;
  readonly keysOf: (field: KnownField) => readonly Value[];
  /** What is left of each unique rule's values, once they are gone through one by one. */
  readonly series: Map<string, Iterator<Row>>;
}

/** The record could not be made: no values are left that some rule tells apart, or, with null, none were found that fit. */
export interface Exhausted {
  readonly exhausted: Constraint | null;
}
export type Made = { readonly row: Row } | Exhausted;

/** A plausible record that keeps all rules and repeats nothing. The same seed and number give the same record. */
export function makeRecord(maker: Maker, number: number, day: string): Made {
  let exhausted: Constraint | null = null;
  for (let begun = 0; begun < MOST_BEGUN; begun += 1) {
    const seed = seedOf(`${maker.seed} ${maker.model.ruleset} ${number} ${begun}`);
    maker.words.seed(seed);
    const making = makingOf(maker.model, maker.words, day, randomFrom(seed), maker);
    const row = settled(maker, recordFor(sentFields(maker.model), making), making);
    const unlike = row === null ? null : madeUnlike(maker, row, making);
    if (unlike === null) continue;
    if ('row' in unlike) return unlike;
    exhausted = unlike.exhausted;
    if (exhausted !== null) break;
  }
  return { exhausted };
}

function sentFields({ fields }: Schema[number]): { readonly [name: string]: KnownField } {
  const isKept = (field: KnownField) => isSent(field) && field.enforcedIn.some((enforcer) => enforcer !== 'client');
  return Object.fromEntries(Object.entries(fields).filter(([, field]) => isKept(field)));
}

/** The record with fields drawn again, or taken from a valid one, until it keeps every rule; null where that fails. */
function settled(maker: Maker, start: Row, making: Making): Row | null {
  const { bases, model } = maker;
  let row = start;
  let broken = bases.brokenBy(model, row);
  for (let tried = 0; broken.length > 0 && tried < MOST_REDRAWN; tried += 1) {
    const next = redrawn(model, row, making.random.pick(subjectsOf(model, broken)), making);
    const faults = bases.brokenBy(model, next);
    if (faults.length <= broken.length) [row, broken] = [next, faults];
  }
  if (broken.length === 0) return row;
  const base = bases.of(model, 0);
  const nearer = base.settle(row, [], '');
  if (bases.brokenBy(model, nearer).length === 0) return nearer;
  // What the broken rules mention is taken from a record that is known to keep them, and then all of it.
  const linked = subjectsOf(model, broken).reduce((mixed, path) => withTop(mixed, path, base.row), row);
  return [linked, { ...base.row }].find((one) => bases.brokenBy(model, one).length === 0) ?? null;
}

function subjectsOf(model: Schema[number], broken: readonly string[]): readonly Path[] {
  const rules = model.constraints.filter(({ id }) => broken.includes(id));
  const paths = rules.flatMap(({ owner, subjects }) => (owner === '' ? subjects : [owner]));
  const tops = paths.map((path) => path.split(/[.[]/)[0] ?? '').filter((path) => path !== '');
  return tops.length > 0 ? [...new Set(tops)] : Object.keys(model.fields);
}

function redrawn(model: Schema[number], row: Row, name: string, making: Making): Row {
  return { ...row, [name]: valueFor(fieldAt(model, name), making) };
}

function withTop(row: Row, path: Path, from: Row): Row {
  return { ...row, [path]: from[path] ?? null };
}

/** The record with other values where it would repeat a stored one. */
function madeUnlike(maker: Maker, start: Row, making: Making): Made | null {
  const { model, bases, taken } = maker;
  let row = start;
  for (let tried = 0; tried < MOST_REDRAWN; tried += 1) {
    const [repeated] = taken.brokenBy(row);
    if (repeated === undefined) return { row };
    const paths = ownPaths(model, repeated);
    const path = making.random.pick(paths);
    const next = withValue(row, path, valueFor({ ...fieldAt(model, path), optional: false }, making));
    if (bases.brokenBy(model, next).length === 0) row = next;
  }
  for (const rule of taken.brokenBy(row)) {
    const next = nextOf(maker, rule, row);
    if (next === null) return { exhausted: rule };
    row = next;
  }
  return taken.brokenBy(row).length === 0 ? { row } : null;
}

/** The fields of a unique rule that can be given other values by themselves. */
function ownPaths(model: Schema[number], { predicate }: Constraint): readonly Path[] {
  const of = predicate.op === 'unique' ? predicate.of : [];
  const single = of.filter((path) => listsOf(path).length === 0 && isScalar(fieldAt(model, path)));
  return single.length > 0 ? single : of.map((path) => path.split(/[.[]/)[0] ?? '');
}

/** The record with the next values of a unique rule's fields that fit it and are not taken; null where none are left. */
function nextOf(maker: Maker, rule: Constraint, row: Row): Row | null {
  const { model, bases, taken, series } = maker;
  const known = series.get(rule.id) ?? combinations(maker, ownPaths(model, rule));
  series.set(rule.id, known);
  for (let step = known.next(); step.done !== true; step = known.next()) {
    const next = Object.entries(step.value).reduce((changed, [path, value]) => withValue(changed, path, value), row);
    const isFree = !taken.brokenBy(next).some(({ id }) => id === rule.id);
    if (isFree && bases.brokenBy(model, next).length === 0) return next;
  }
  return null;
}

/** Every combination of the fields' values, the last field's changing first. */
function* combinations(maker: Maker, paths: readonly Path[]): Generator<Row, void> {
  const [path, ...rest] = paths;
  if (path === undefined) {
    yield {};
    return;
  }
  const field = fieldAt(maker.model, path);
  const values = targetOf(field) === null ? seriesOf(field, maker.grammars) : maker.keysOf(field);
  for (const value of values) for (const more of combinations(maker, rest)) yield { [path]: value, ...more };
}

/** The value of a record's key. */
export function keyOf(model: Schema[number], row: Row): Value {
  return model.key === null ? null : valueAt(row, model.key);
}
