import type { Schema } from '../../core/declare/index.js';
import { read, uniqueKeysOf } from '../../core/meaning/index.js';
import type { Case, Row } from '../../core/model/index.js';

/** The values of a case that no two stored records may have: such cases are not asked at the same time. */
export function claimsOf({ input, wire }: Case, model: Schema[number]): readonly string[] {
  if (typeof input !== 'object' || input === null || Array.isArray(input)) return [];
  const row = read(model, input as Row, wire);
  return model.constraints.flatMap(({ id, predicate }) => {
    if (predicate.op !== 'unique') return [];
    return uniqueKeysOf(model, row, predicate).map((key) => `${id} ${key}`);
  });
}

/** True for a case that names a record which is not stored. */
export function missesTarget({ expected }: Case, { constraints }: Schema[number]): boolean {
  const blamed = 'refused' in expected ? [...expected.refused, ...expected.possibly] : [];
  return constraints.some(({ id, predicate }) => predicate.op === 'refersTo' && blamed.some(({ rule }) => rule === id));
}
