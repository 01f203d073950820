import { type KnownField, sampleOf, valueField, valuesOf } from '../../kinds/index.js';
import type { GivenClock } from '../../meaning/index.js';
import { isSent, type Model, type Path, type Row, type Value } from '../../model/index.js';
import type { Key } from './formula.js';

/** A record that was worked out, and the clock that it is judged by. */
export interface Example {
  readonly row: Row;
  readonly clock: GivenClock;
}

/** More items than this are not written out. */
const MOST_ITEMS = 1_000;

/** The record that values describe, without what nobody sends; null where it would be too large to write out. */
export function recordOf(model: Model, values: ReadonlyMap<Key, Value>): Example | null {
  let fits = true;
  const madeOf = (field: KnownField, item: number): Value => {
    if (field.fields !== null) return recordIn(field, item);
    if (field.item === null) return varied(model, field, values.get(field.path) ?? null, item);
    const count = Number(values.get(`count ${field.path}`) ?? 0);
    if (count > MOST_ITEMS) fits = false;
    const { item: inner } = field;
    return Array.from({ length: Math.min(count, MOST_ITEMS) }, (_, at) => madeOf(inner, at));
  };
  const recordIn = (field: KnownField, item: number): Value => {
    const made = Object.values(field.fields ?? {}).map(
      (inner) => [inner.name, madeOf(inner as KnownField, item)] as const,
    );
    const isBlank = made.every(([, value]) => value === null || (Array.isArray(value) && value.length === 0));
    return field.optional && isBlank ? null : Object.fromEntries(made);
  };
  const sent = Object.values(model.fields).filter((field) => isSent(field) && field.derivation === null);
  const row = Object.fromEntries(sent.map((field) => [field.name, madeOf(field as KnownField, 0)]));
  return fits ? { row, clock: clockOf(values) } : null;
}

/** Where no two items may be alike, the second and those after it get other values. */
function varied(model: Model, field: KnownField, value: Value, item: number): Value {
  if (item === 0 || value === null || !mustDiffer(model, field.path)) return value;
  const few = valuesOf(valueField(field));
  if (few !== null) return few[(few.indexOf(value as never) + item) % few.length] ?? value;
  return sampleOf(field, item + 10);
}

function mustDiffer({ constraints }: Model, path: Path): boolean {
  return constraints.some(({ predicate }) => predicate.op === 'distinct' && predicate.of === path);
}

function clockOf(values: ReadonlyMap<Key, Value>): GivenClock {
  const [now, today] = [values.get('now()'), values.get('today()')];
  const instant = typeof now === 'string' ? now : `${typeof today === 'string' ? today : '2026-03-02'}T12:00:00Z`;
  return { instant, zone: 'UTC' };
}
