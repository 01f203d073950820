import type { Schema } from '../../core/declare/index.js';
import { english, phrase } from '../../core/messages/index.js';
import { type Blame, type Constraint, fieldAt, pointerToPath, secretIn } from '../../core/model/index.js';
import { constraintName, tablesOf } from '../../core/targets/index.js';
import type { Refusal } from './refusal.js';

type Model = Schema[number];

/** A constraint or unique index that is not ours: its columns, and of a CHECK what it says. */
export interface ForeignConstraint {
  readonly columns: readonly string[];
  readonly expression: string | null;
}

/** Those of a database, by `placeOf` their table and name: names are a table's own. */
export type ForeignConstraints = ReadonlyMap<string, ForeignConstraint>;

export function placeOf(table: string, name: string): string {
  return JSON.stringify([table, name]);
}

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
  foreign: ForeignConstraints = new Map(),
): Blame {
  const { constraint, message, kind } = refusal;
  const named = constraint === null ? undefined : names.get(constraint.toLowerCase());
  if (named !== undefined) return told(named, message);
  const found = foreignOf(refusal, model, foreign);
  const columns = refusal.columns.length > 0 ? refusal.columns : found.columns;
  if (kind === 'unique') {
    // The name alone says little: engines call an index of several columns by its first.
    const ours = uniqueOver(model, found.expression === null ? { ...refusal, columns } : refusal);
    if (ours !== null) return told(ours, message);
  }
  const [only] = columns;
  const facets: { readonly [kind: string]: string } = { required: 'required', type: 'type' };
  const facet = facets[kind];
  if (columns.length === 1 && only !== undefined) {
    const field = fieldWith(model, only, refusal.table);
    const path = facet === 'required' && field !== undefined ? givenAs(model, field.path) : field?.path;
    const own = model.constraints.find(({ id }) => id === `${model.ruleset}.${path}.${facet}`);
    // What a missing value is worked out from may itself be missing: the column says that of both.
    if (facet === 'required' && field?.derivation != null && own !== undefined)
      return { ...told(own, message), rule: null };
    if (own !== undefined) return told(own, message);
    if (field !== undefined) return { pointer: pointerToPath(blamedFor(model, field.path)), rule: null, message };
  }
  const over = kind === 'check' ? ruleOver(model, { ...found, columns }) : null;
  if (over !== null) return told(over, message);
  return { pointer: null, rule: null, message };
}

/** The field that must be there for a field to be: of the stored form of a secret, the secret. */
function givenAs({ fields }: Model, path: string): string {
  return secretIn(path, fields)?.path ?? path;
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

/** A constraint that isn't ours: as the catalogue has it, or by the text of a CHECK without a name. */
function foreignOf({ constraint, table }: Refusal, model: Model, foreign: ForeignConstraints): ForeignConstraint {
  if (constraint === null) return { columns: [], expression: null };
  const known = table === null ? undefined : foreign.get(placeOf(table, constraint));
  if (known !== undefined) return known;
  const words = new Set(constraint.match(/[A-Za-z_][A-Za-z0-9_]*/g) ?? []);
  const own = tablesOf(model).filter(({ name }) => table === null || name === table);
  const columns = own.flatMap(({ fields }) => fields.flatMap(({ column }) => (words.has(column) ? [column] : [])));
  return { columns, expression: constraint };
}

/**
 * The named rule over exactly these columns; where there are several, the one whose values are all in what the CHECK
 * says. Null where that is none, or not one alone.
 */
function ruleOver(model: Model, { columns, expression }: ForeignConstraint): Constraint | null {
  const wanted = [...new Set(columns)].sort().join();
  const over = model.constraints.filter(({ facet, subjects }) => {
    return !facet && [...new Set(subjects.map((path) => fieldAt(model, path).column))].sort().join() === wanted;
  });
  const said = (rule: Constraint) => literalsOf(rule.predicate).every((one) => expression?.includes(one) === true);
  const [first, ...others] = over.length > 1 ? over.filter(said) : over;
  return first === undefined || others.length > 0 ? null : first;
}

/** The values that a predicate names, as text. */
function literalsOf(part: unknown): readonly string[] {
  if (typeof part !== 'object' || part === null) return [];
  const { term, value } = part as { readonly term?: unknown; readonly value?: unknown };
  const own = term === 'literal' && value !== null && typeof value !== 'boolean' ? [String(value)] : [];
  return [...own, ...Object.values(part).flatMap(literalsOf)];
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
