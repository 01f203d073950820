import type { Schema } from '../../core/declare/index.js';
import { type Blame, type Constraint, fieldAt, pointerToPath } from '../../core/model/index.js';
import { constraintName, storedFields } from '../../core/targets/index.js';

type Model = Schema[number];

/** The constraint that has a name in the database, or null where the name is none of ours. */
export function constraintNamed(model: Model, name: string): Constraint | null {
  return model.constraints.find(({ id }) => constraintName(id) === name) ?? null;
}

/** A constraint of ours as what an engine blames, in the engine's own words: the table may be older than the rules. */
export function blameOf({ id, blame }: Constraint, message: string): Blame {
  return { pointer: pointerToPath(blame), rule: id, message };
}

/** The facet of the field that a column holds. */
export function blameColumn(model: Model, column: string, facet: string, message: string): Blame {
  const field = storedFields(model).find((one) => one.column === column);
  const constraint = model.constraints.find(({ id }) => id === `${model.ruleset}.${field?.path}.${facet}`);
  if (constraint !== undefined) return blameOf(constraint, message);
  return { pointer: field === undefined ? null : pointerToPath(field.path), rule: null, message };
}

/**
 * A rule that isn't ours, by the columns that it is over: one column is a field to blame; of several none can be told
 * from the others.
 */
export function blameColumns(model: Model, columns: readonly string[], message: string): Blame {
  const fields = storedFields(model).filter(({ column }) => columns.includes(column));
  const [only] = fields;
  return { pointer: fields.length === 1 && only !== undefined ? pointerToPath(only.path) : null, rule: null, message };
}

/** The unique rule over exactly these columns. */
export function uniqueOver(model: Model, columns: readonly string[]): Constraint | null {
  const columnOf = (path: string) => fieldAt(model, path).column;
  const wanted = [...columns].sort().join();
  const isOver = ({ predicate }: Constraint) =>
    predicate.op === 'unique' && predicate.of.map(columnOf).sort().join() === wanted;
  return model.constraints.find(isOver) ?? null;
}
