import type { Schema } from '../declare/index.js';
import { targetOf } from '../kinds/index.js';
import { instancesOf, valueIn } from '../meaning/index.js';
import { allFields, type Path, type Row, type Value, valueAt } from '../model/index.js';
import type { Stored } from './context.js';
import { Taken } from './taken.js';

/**
 * True where rows can be stored one after the other: each refers to rows before it or to itself, and none repeats what
 * must differ. Where values are few, rows that a case would need may repeat each other.
 */
export function isStorable(schema: Schema, rows: readonly Stored[]): boolean {
  const keys = new Map<string, Set<Value>>();
  const taken = new Map<string, Taken>();
  return rows.every(({ ruleset, row }) => {
    const model = schema.find((one) => one.ruleset === ruleset);
    if (model === undefined) return false;
    const own = taken.get(ruleset) ?? new Taken(model);
    if (own.brokenBy(row).length > 0) return false;
    own.take(row);
    taken.set(ruleset, own);
    if (model.key !== null) keys.set(ruleset, (keys.get(ruleset) ?? new Set()).add(valueAt(row, model.key)));
    return namedBy(row, model).every(([to, key]) => keys.get(to)?.has(key) === true);
  });
}

/** What a row refers to: rulesets and keys, and by which fields. */
export function namedBy(row: Row, model: Schema[number]): readonly (readonly [to: string, key: Value, by: Path])[] {
  return allFields(model).flatMap((field) => {
    const target = targetOf(field);
    if (target === null) return [];
    return instancesOf(row, field.path)
      .map((indices) => valueIn(row, field.path, indices))
      .flatMap((key) => (key === null ? [] : [[target.to, key, field.path] as const]));
  });
}
