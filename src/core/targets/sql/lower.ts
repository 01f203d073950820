import type { Schema } from '../../declare/index.js';
import type { KnownField } from '../../kinds/index.js';
import { type Constraint, type Fidelity, fieldAt, type Model } from '../../model/index.js';
import type { ColumnType, Dialect } from './dialect.js';
import { constraintName } from './names.js';
import { predicateSql } from './predicates.js';
import { printSql } from './print.js';

/** Where a constraint is written: in a column's line, among the table's constraints, or as statements behind it. */
export interface Lowered {
  readonly constraint: Constraint;
  readonly fidelity: Fidelity;
  readonly notNull?: string;
  readonly clause?: string;
  readonly statements?: readonly string[];
}

const exact: Fidelity = { is: 'exact' };

/** What every constraint of a model becomes in a dialect. */
export function lowerModel(model: Schema[number], schema: Schema, dialect: Dialect): readonly Lowered[] {
  return model.constraints.map((constraint) => lowerConstraint(constraint, model, schema, dialect));
}

function lowerConstraint(constraint: Constraint, model: Schema[number], schema: Schema, dialect: Dialect): Lowered {
  const { predicate, id } = constraint;
  const { name } = dialect.spelling;
  const called = `CONSTRAINT ${name(constraintName(id))}`;
  const columnOf = (path: string) => name(fieldAt(model, path).column);
  if (constraint.blame === '') return { constraint, fidelity: absent('a table has its own columns and no others') };
  if (predicate.op === 'given' && constraint.facet) {
    return { constraint, fidelity: exact, notNull: predicate.of };
  }
  if (predicate.op === 'typed') return typed(constraint, dialect.columnType(fieldAt(model, predicate.of)), dialect);
  if (predicate.op === 'unique') {
    const key = predicate.of.length === 1 && predicate.of[0] === model.key ? 'PRIMARY KEY' : 'UNIQUE';
    const fidelity = dialect.unique(predicate.of.map((path) => fieldAt(model, path)));
    return { constraint, fidelity, clause: `${called} ${key} (${predicate.of.map(columnOf).join(', ')})` };
  }
  if (predicate.op === 'refersTo') {
    const target = schema.find(({ ruleset }) => ruleset === predicate.to);
    if (target === undefined) throw new Error(`no ruleset ${predicate.to} in the schema`);
    const there = `${name(target.table)} (${name(fieldAt(target, predicate.key).column)})`;
    const clause = `${called} FOREIGN KEY (${columnOf(predicate.of)}) REFERENCES ${there} ON DELETE NO ACTION`;
    return {
      constraint,
      fidelity: exact,
      clause,
      statements: referenceIndex(constraint, predicate.of, model, dialect),
    };
  }
  if (predicate.op === 'matches' && 'field' in predicate.of) {
    const place = { table: model.table, name: constraintName(id) };
    const held = dialect.matches(fieldAt(model, predicate.of.field).column, predicate.pattern, place);
    if ('untranslated' in held) return { constraint, fidelity: absent(held.untranslated) };
    if ('statements' in held) return { constraint, fidelity: exact, statements: held.statements };
  }
  const sql = predicateSql(predicate, { model, dialect });
  if (sql === null) return { constraint, fidelity: absent('a part of it has no twin in SQL') };
  return { constraint, fidelity: exact, clause: `${called} CHECK (${printSql(sql, dialect.spelling)})` };
}

function typed(constraint: Constraint, { check, fidelity }: ColumnType, dialect: Dialect): Lowered {
  if (check === null) return { constraint, fidelity };
  const called = `CONSTRAINT ${dialect.spelling.name(constraintName(constraint.id))}`;
  return { constraint, fidelity, clause: `${called} CHECK (${printSql(check, dialect.spelling)})` };
}

/** Engines don't index a referring column by themselves; one that a unique rule begins with needs no index more. */
function referenceIndex(constraint: Constraint, path: string, model: Model, dialect: Dialect): readonly string[] {
  const covered = model.constraints.some(({ predicate }) => predicate.op === 'unique' && predicate.of[0] === path);
  if (covered) return [];
  const { name } = dialect.spelling;
  const index = name(constraintName(constraint.id, '_index'));
  return [`CREATE INDEX ${index} ON ${name(model.table)} (${name(fieldAt(model, path).column)});`];
}

function absent(why: string): Fidelity {
  return { is: 'absent', why };
}

/** The text that the ledger shows for a constraint: what stands in the table, in one line. */
export function becomes(lowered: Lowered, model: Model<KnownField['kind']>, dialect: Dialect): string | null {
  const { predicate } = lowered.constraint;
  const field = predicate.op === 'typed' && predicate.of !== '' ? fieldAt(model, predicate.of) : null;
  const parts = [
    ...(lowered.notNull === undefined ? [] : ['NOT NULL']),
    ...(field === null ? [] : [dialect.columnType(field).type]),
    ...(lowered.clause === undefined ? [] : [lowered.clause.replace(/^CONSTRAINT \S+ /, '')]),
    ...(lowered.statements ?? []).map((text) => text.split('\n')[0]?.replace(/;$/, '') ?? ''),
  ];
  return parts.length === 0 ? null : parts.join('; ');
}
