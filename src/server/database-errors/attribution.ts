import type { Schema } from '../../core/declare/index.js';
import { english, phrase } from '../../core/messages/index.js';
import { type Blame, type Constraint, fieldAt, pointerToPath } from '../../core/model/index.js';
import { constraintName, tablesOf } from '../../core/targets/index.js';
import type { Refusal } from './refusal.js';

type Model = Schema[number];

/** The columns of constraints and unique indexes that are not ours, by name. */
export type ColumnsByConstraint = ReadonlyMap<string, readonly string[]>;

/** The constraints of a ruleset by their names in the database, in small letters: engines compare them without case. */
export type Names = ReadonlyMap<string, Constraint>;

/** A key is known by the names, too, that engines give to those of tables that were made by hand. */
export function namesOf(model: Model): Names {
  const key = model.constraints.find(({ id }) => id === `${model.ruleset}.${model.key}.unique`);
  const usual = key === undefined ? [] : ['primary', `${model.table}_pkey`].map((name) => [name, key] as const);
  const own = model.constraints.map((one) => [constraintName(one.id), one] as const);
  return new Map([...usual, ...own].map(([name, one]) => [name.toLowerCase(), one]));
}

/** What a refused write blames, by the names and columns that the engine tells. */
export function blameOf(
  refusal: Refusal,
  model: Model,
  names: Names = namesOf(model),
  foreign: ColumnsByConstraint = new Map(),
): Blame {
  const { constraint, message, kind } = refusal;
  const named = constraint === null ? undefined : names.get(constraint.toLowerCase());
  if (named !== undefined) return told(named, message);
  if (kind === 'unique') {
    const ours = uniqueOver(model, refusal);
    if (ours !== null) return told(ours, message);
  }
  const columns = refusal.columns.length > 0 ? refusal.columns : columnsOf(refusal, model, foreign);
  const [only] = columns;
  const facets: { readonly [kind: string]: string } = { required: 'required', type: 'type' };
  const facet = facets[kind];
  if (columns.length === 1 && only !== undefined) {
    const field = fieldWith(model, only, refusal.table);
    const own = model.constraints.find(({ id }) => id === `${model.ruleset}.${field?.path}.${facet}`);
    if (own !== undefined) return told(own, message);
    if (field !== undefined) return { pointer: pointerToPath(blamedFor(model, field.path)), rule: null, message };
  }
  return { pointer: null, rule: null, message };
}

/** Where what is wrong with a field is told: of one that is worked out, at what it is worked out from. */
function blamedFor(model: Model, path: string): string {
  return model.constraints.find(({ owner, facet }) => facet && owner === path)?.blame ?? path;
}

function told({ id, blame }: Constraint, message: string): Blame {
  return { pointer: pointerToPath(blame), rule: id, message };
}

/** The field of a column; where the engine names no table, of the first table that has such a column. */
function fieldWith(model: Model, column: string, table: string | null) {
  const tables = tablesOf(model).filter(({ name }) => table === null || name === table);
  return tables.flatMap(({ fields }) => fields).find((one) => one.column === column);
}

/** The columns of a constraint that isn't ours: told by the catalogue, or by the text of a CHECK without a name. */
function columnsOf({ constraint }: Refusal, model: Model, foreign: ColumnsByConstraint): readonly string[] {
  if (constraint === null) return [];
  const known = foreign.get(constraint);
  if (known !== undefined) return known;
  const words = new Set(constraint.match(/[A-Za-z_][A-Za-z0-9_]*/g) ?? []);
  return tablesOf(model).flatMap(({ fields }) => fields.flatMap(({ column }) => (words.has(column) ? [column] : [])));
}

/** The unique rule over exactly these columns. */
function uniqueOver(model: Model, { columns, table }: Refusal): Constraint | null {
  const own = tablesOf(model).find(({ name }) => name === table);
  const keys = own === undefined || own.parent === null ? [] : own.key.map(({ name }) => name);
  const columnOf = (path: string) => fieldAt(model, path).column;
  const wanted = columns.filter((column) => !keys.includes(column)).sort();
  const isOver = ({ predicate }: Constraint) => {
    if (predicate.op === 'unique') return predicate.of.map(columnOf).sort().join() === wanted.join();
    return predicate.op === 'distinct' && predicate.over === own?.of && columnOf(predicate.of) === wanted.join();
  };
  return wanted.length === 0 ? null : (model.constraints.find(isOver) ?? null);
}

/** What is said of a record that the database refuses for a reason that no rule of ours gives. */
export const refusedWords = phrase(english, { keys: ['refused'], label: '', limit: '' });
