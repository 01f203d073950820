import type { Schema } from '../core/declare/index.js';
import { instancesOf, judgingFor, valueIn } from '../core/meaning/index.js';
import {
  type Constraint,
  fieldAt,
  type Indices,
  pointerToPath,
  type Row,
  type Violation,
} from '../core/model/index.js';
import { foldCase } from '../core/operators/index.js';
import { type EngineName, type LookUp, tableTargets, toColumn, typeField } from '../core/targets/index.js';
import type { Connection } from './connections/index.js';

type Model = Schema[number];

/**
 * The `unique` and `reference` rules that a record breaks, asked of the stored rows; those of fields with another fault
 * are not asked, nor are references to rulesets that are not given.
 *
 * @param key the key of the stored record that is being changed: a record is no duplicate of itself
 */
export async function brokenLookUps(
  connection: Connection,
  model: Model,
  schema: Schema,
  record: Row,
  faults: readonly Violation[],
  key: unknown = null,
): Promise<readonly Violation[]> {
  // What is in a record or list that could not be read is faulty too.
  const isFaulty = (pointer: string) =>
    faults.some((fault) => pointer === fault.pointer || pointer.startsWith(`${fault.pointer}/`));
  const names = schema.map(({ ruleset }) => ruleset);
  const known = {
    ...model,
    constraints: model.constraints.filter(
      ({ predicate }) => predicate.op !== 'refersTo' || names.includes(predicate.to),
    ),
  };
  const broken: Violation[] = [];
  for (const lookUp of tableTargets[connection.engine].lookUps(known, schema)) {
    const [first = ''] = lookUp.of;
    for (const indices of instancesOf(record, first)) {
      const pointers = lookUp.of.map((path) => pointerToPath(path, indices));
      if (pointers.some(isFaulty) || !counts(lookUp, model, record)) continue;
      const values = valuesOf(lookUp, model, schema, record, indices, connection.engine);
      if (values.includes(null)) continue;
      const itself = key !== null && lookUp.foundBreaks;
      const rows = await connection.rows(
        `${lookUp.sql}${itself ? lookUp.butItself : ''} LIMIT 1`,
        itself ? [...values, key] : values,
      );
      if (rows.length > 0 === lookUp.foundBreaks) broken.push(told(lookUp.constraint, indices));
    }
  }
  return broken;
}

/** A unique rule with a condition is about the records that meet it. */
function counts({ among }: LookUp, model: Model, record: Row): boolean {
  return among === null || judgingFor(model, record).truth(among) === true;
}

function valuesOf(
  { of, folds }: LookUp,
  model: Model,
  schema: Schema,
  record: Row,
  indices: Indices,
  engine: EngineName,
): readonly unknown[] {
  return of.map((path) => {
    const value = valueIn(record, path, indices);
    const folded = folds && typeof value === 'string' ? foldCase(value) : value;
    return toColumn(tableTargets[engine].wire, typeField(fieldAt(model, path), schema), folded);
  });
}

function told({ id, blame, message }: Constraint, indices: Indices): Violation {
  return { pointer: pointerToPath(blame, indices), rule: id, message };
}
