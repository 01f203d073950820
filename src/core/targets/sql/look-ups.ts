import { homeOf, type Schema } from '../../declare/index.js';
import { type Constraint, fieldAt, type Path, type Predicate } from '../../model/index.js';
import type { Dialect } from './dialect.js';
import { tableAt, typeField } from './layout.js';
import { constraintName } from './names.js';
import { predicateSql } from './predicates.js';
import { printSql } from './print.js';

/** A question that a look-up rule asks the stored rows: a statement that gives a row where there is one. */
export interface LookUp {
  readonly constraint: Constraint;
  /** The fields whose values it takes, in order; a rule of which one is absent asks nothing. */
  readonly of: readonly Path[];
  /** True where a row that is found breaks the rule; false where one that is not found does. */
  readonly foundBreaks: boolean;
  /** The values are put with A–Z as a–z. */
  readonly folds: boolean;
  /** The condition of a unique rule, on the record itself. */
  readonly among: Predicate | null;
  readonly sql: string;
  /** What is put behind it where a record is changed: it is no duplicate of itself. Takes its key as one value more. */
  readonly butItself: string;
}

/** The look-ups that a server can do where a write was refused: one answer then names every rule that is broken. */
export function lookUpsOf(model: Schema[number], schema: Schema, dialect: Dialect): readonly LookUp[] {
  return model.constraints.flatMap((constraint): readonly LookUp[] => {
    const { predicate, enforcedIn } = constraint;
    if (!enforcedIn.includes('database')) return [];
    if (predicate.op === 'refersTo') return [reference(constraint, predicate, model, schema, dialect)];
    return predicate.op === 'unique' ? unique(constraint, predicate, model, schema, dialect) : [];
  });
}

function reference(
  constraint: Constraint,
  { of, to, key }: Extract<Predicate, { op: 'refersTo' }>,
  model: Schema[number],
  schema: Schema,
  { spelling, wire }: Dialect,
): LookUp {
  const target = schema.find(({ ruleset }) => ruleset === to);
  if (target === undefined) throw new Error(`no ruleset ${to} beside ${model.ruleset}`);
  const column = spelling.name(fieldAt(target, key).column);
  const sql = `SELECT 1 AS found FROM ${spelling.name(target.table)} WHERE ${column} = ${wire.place(1)}`;
  return { constraint, of: [of], foundBreaks: false, folds: false, among: null, sql, butItself: '' };
}

function unique(
  constraint: Constraint,
  { of, fold, among }: Extract<Predicate, { op: 'unique' }>,
  model: Schema[number],
  schema: Schema,
  dialect: Dialect,
): readonly LookUp[] {
  const { spelling, wire } = dialect;
  const home = homeOf(model.fields, of[0] ?? '');
  if (home === null) return [];
  const table = tableAt(model, home);
  const where = among === null ? null : predicateSql(among, { model, schema, dialect, table });
  if (among !== null && where === null) return [];
  const same = of.map((path, at) => {
    const field = typeField(fieldAt(model, path), schema);
    const [column, value] = [spelling.name(field.column), wire.place(at + 1)];
    const folds = fold === 'case' && dialect.columnType(field, table).isText === true;
    return `${folds ? dialect.folded(constraintName(constraint.id), field.column) : column} = ${value}`;
  });
  const conditions = [...same, ...(where === null ? [] : [`(${printSql(where, spelling)})`])];
  const sql = `SELECT 1 AS found FROM ${spelling.name(table.name)} WHERE ${conditions.join(' AND ')}`;
  const [key] = table.key;
  const butItself = key === undefined ? '' : ` AND ${spelling.name(key.name)} <> ${wire.place(of.length + 1)}`;
  return [{ constraint, of, foundBreaks: true, folds: fold === 'case', among, sql, butItself }];
}
