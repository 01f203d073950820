import type { Schema } from '../../declare/index.js';
import { isScalar } from '../../kinds/index.js';
import { type Constraint, type Fidelity, fieldAt, listsOf, type Model, plainFields } from '../../model/index.js';
import { mentions } from '../../operators/index.js';
import { optionalAround, storedFields } from './columns.js';
import type { ColumnType, Dialect } from './dialect.js';
import { constraintName } from './names.js';
import { canonicalGap, predicateSql } from './predicates.js';
import { printSql } from './print.js';
import { column, type Sql } from './tree.js';

/** Where a constraint is written: in a column's line, among the table's constraints, or as statements behind it. */
export interface Lowered {
  readonly constraint: Constraint;
  readonly fidelity: Fidelity;
  readonly notNull?: string;
  readonly clause?: string;
  readonly statements?: readonly string[];
  /** A statement behind all tables. */
  readonly later?: string;
}

type Known = Schema[number];
const exact: Fidelity = { is: 'exact' };

/** What every constraint of a model becomes in a dialect. */
export function lowerModel(model: Known, schema: Schema, dialect: Dialect): readonly Lowered[] {
  return model.constraints.map((constraint) => lowerConstraint(constraint, model, schema, dialect));
}

/** Why a table can't hold a constraint at all; null where it may. */
function outOfReach(constraint: Constraint, model: Known): string | null {
  const { predicate, blame, owner, enforcedIn } = constraint;
  if (blame === '' && constraint.facet) return 'a table has its own columns and no others';
  if (!enforcedIn.includes('database')) return `it is enforced in ${enforcedIn.join(' and ')} only`;
  const paths = [...mentions(predicate), ...(owner === '' ? [] : [owner])];
  if (paths.some((path) => listsOf(path).length > 0))
    return 'what is in a list is kept as JSON, which is checked before';
  const field = owner === '' ? null : fieldAt(model, owner);
  if (field?.fields != null) return 'the fields of a record are columns of their own';
  const elsewhere = paths.find((path) => !fieldAt(model, path).enforcedIn.includes('database'));
  return elsewhere === undefined ? null : `${elsewhere} has no column`;
}

function lowerConstraint(constraint: Constraint, model: Known, schema: Schema, dialect: Dialect): Lowered {
  const { predicate, id } = constraint;
  const { name } = dialect.spelling;
  const called = `CONSTRAINT ${name(constraintName(id))}`;
  const why = outOfReach(constraint, model);
  if (why !== null) return { constraint, fidelity: absent(why) };
  if (predicate.op === 'given' && constraint.facet) return required(constraint, predicate.of, model, dialect);
  if (predicate.op === 'typed') return typed(constraint, dialect.columnType(fieldAt(model, predicate.of)), dialect);
  if (predicate.op === 'unique') return unique(constraint, model, dialect);
  if (predicate.op === 'refersTo') return refers(constraint, model, schema, dialect);
  if (predicate.op === 'matches' && predicate.of.term === 'field') {
    const place = { table: model.table, name: constraintName(id) };
    const held = dialect.matches(fieldAt(model, predicate.of.path).column, predicate.pattern, place);
    if ('untranslated' in held) return { constraint, fidelity: absent(held.untranslated) };
    if ('statements' in held) return { constraint, fidelity: exact, statements: held.statements };
  }
  const sql = predicateSql(predicate, { model, dialect });
  if (sql === null) return { constraint, fidelity: absent('a part of it has no twin in SQL') };
  const gap = predicate.op === 'canonical' ? canonicalGap(fieldAt(model, predicate.of), dialect) : null;
  const fidelity: Fidelity = gap === null ? exact : { is: 'looser', why: gap };
  return { constraint, fidelity, clause: `${called} CHECK (${printSql(sql, dialect.spelling)})` };
}

/** Within an optional record: required where anything else of the record is there. */
function required(constraint: Constraint, path: string, model: Known, dialect: Dialect): Lowered {
  const around = optionalAround(model, path);
  if (around === null) return { constraint, fidelity: exact, notNull: path };
  const own = column(fieldAt(model, path).column);
  const others = plainFields({ fields: { [around.name]: around } })
    .filter((field) => isScalar(field) && field.path !== path && field.enforcedIn.includes('database'))
    .map((field): Sql => ({ not: { isGiven: column(field.column) } }));
  const isAbsent: Sql = { all: [{ not: { isGiven: own } }, ...others] };
  const check = printSql({ any: [{ isGiven: own }, isAbsent] }, dialect.spelling);
  return {
    constraint,
    fidelity: exact,
    clause: `CONSTRAINT ${dialect.spelling.name(constraintName(constraint.id))} CHECK (${check})`,
  };
}

function unique(constraint: Constraint, model: Known, dialect: Dialect): Lowered {
  const { predicate, id } = constraint;
  if (predicate.op !== 'unique') throw new Error(`${id} is no unique rule`);
  const { name } = dialect.spelling;
  const { of, fold, among } = predicate;
  const fields = of.map((path) => fieldAt(model, path));
  const fidelity = dialect.unique(fields);
  if (fold === 'none' && among === null) {
    const key = of.length === 1 && of[0] === model.key ? 'PRIMARY KEY' : 'UNIQUE';
    const columns = fields.map((field) => name(field.column)).join(', ');
    return { constraint, fidelity, clause: `CONSTRAINT ${name(constraintName(id))} ${key} (${columns})` };
  }
  const where = among === null ? null : predicateSql(among, { model, dialect });
  if (among !== null && where === null) return { constraint, fidelity: absent('its condition has no twin in SQL') };
  const columns = fields.map((field) =>
    fold === 'case' && dialect.columnType(field).isText === true
      ? dialect.folded(name(field.column))
      : name(field.column),
  );
  const condition = where === null ? '' : ` WHERE ${printSql(where, dialect.spelling)}`;
  const index = `CREATE UNIQUE INDEX ${name(constraintName(id))} ON ${name(model.table)}`;
  return { constraint, fidelity, statements: [`${index} (${columns.join(', ')})${condition};`] };
}

const onDelete: { readonly [said: string]: string } = { refuse: 'NO ACTION', cascade: 'CASCADE', clear: 'SET NULL' };

function refers(constraint: Constraint, model: Known, schema: Schema, dialect: Dialect): Lowered {
  const { predicate, id } = constraint;
  if (predicate.op !== 'refersTo') throw new Error(`${id} is no reference`);
  const target = schema.find(({ ruleset }) => ruleset === predicate.to);
  if (target === undefined) throw new Error(`no ruleset ${predicate.to} in the schema`);
  const { name } = dialect.spelling;
  const field = fieldAt(model, predicate.of);
  const there = `${name(target.table)} (${name(fieldAt(target, predicate.key).column)})`;
  const does = onDelete[String(field.facets.onDelete ?? 'refuse')] ?? 'NO ACTION';
  const key = `CONSTRAINT ${name(constraintName(id))} FOREIGN KEY (${name(field.column)}) REFERENCES ${there} ON DELETE ${does}`;
  const indexes = referenceIndex(constraint, predicate.of, model, dialect);
  // In a circle of tables the first one refers to one that is not there yet.
  const isLater = schema.indexOf(target) > schema.indexOf(model) && !dialect.refersAhead;
  if (!isLater) return { constraint, fidelity: exact, clause: key, statements: indexes };
  return { constraint, fidelity: exact, statements: indexes, later: `ALTER TABLE ${name(model.table)} ADD ${key};` };
}

function typed(constraint: Constraint, { check, fidelity }: ColumnType, dialect: Dialect): Lowered {
  if (check === null) return { constraint, fidelity };
  const called = `CONSTRAINT ${dialect.spelling.name(constraintName(constraint.id))}`;
  return { constraint, fidelity, clause: `${called} CHECK (${printSql(check, dialect.spelling)})` };
}

/** Engines don't index a referring column by themselves; one that a unique rule begins with needs no index more. */
function referenceIndex(constraint: Constraint, path: string, model: Model, dialect: Dialect): readonly string[] {
  const covered = model.constraints.some(
    ({ predicate }) => predicate.op === 'unique' && predicate.of[0] === path && predicate.among === null,
  );
  if (covered) return [];
  const { name } = dialect.spelling;
  const index = name(constraintName(constraint.id, '_index'));
  return [`CREATE INDEX ${index} ON ${name(model.table)} (${name(fieldAt(model, path).column)});`];
}

function absent(why: string): Fidelity {
  return { is: 'absent', why };
}

/** The text that the ledger shows for a constraint: what stands in the table, in one line. */
export function becomes(lowered: Lowered, model: Known, dialect: Dialect): string | null {
  const { predicate } = lowered.constraint;
  const field = predicate.op === 'typed' ? storedFields(model).find(({ path }) => path === predicate.of) : undefined;
  const parts = [
    ...(lowered.notNull === undefined ? [] : ['NOT NULL']),
    ...(field === undefined ? [] : [dialect.columnType(field).type]),
    ...(lowered.clause === undefined ? [] : [lowered.clause.replace(/^CONSTRAINT \S+ /, '')]),
    ...[...(lowered.statements ?? []), ...(lowered.later === undefined ? [] : [lowered.later])].map(
      (text) => text.split('\n')[0]?.replace(/;$/, '') ?? '',
    ),
  ];
  return parts.length === 0 ? null : parts.join('; ');
}
