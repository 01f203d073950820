import type { Schema } from '../../declare/index.js';
import type { KnownField } from '../../kinds/index.js';
import { type Entry, fieldAt } from '../../model/index.js';
import type { MadeFile, Target } from '../target.js';
import { storedFields } from './columns.js';
import type { Dialect } from './dialect.js';
import { becomes, type Lowered, lowerModel } from './lower.js';
import { constraintName } from './names.js';
import { literal } from './predicates.js';
import { printSql } from './print.js';

/** A target that writes tables in a dialect of SQL. */
export function sqlTarget(dialect: Dialect): Target {
  return {
    ledger: (schema) => schema.flatMap((model) => entries(model, schema, dialect)),
    emit: (schema): readonly MadeFile[] => [
      {
        path: `${dialect.target}/tables.sql`,
        comment: ['-- ', ''],
        from: schema.map(({ ruleset }) => ruleset),
        text: [...schema.map((model) => tableText(model, schema, dialect)), ...laterText(schema, dialect)].join('\n'),
      },
    ],
  };
}

function entries(model: Schema[number], schema: Schema, dialect: Dialect): readonly Entry[] {
  return lowerModel(model, schema, dialect).map((lowered) => ({
    constraint: lowered.constraint.id,
    target: dialect.target,
    becomes: becomes(lowered, model, dialect),
    fidelity: lowered.fidelity,
  }));
}

function tableText(model: Schema[number], schema: Schema, dialect: Dialect): string {
  const { name } = dialect.spelling;
  const lowered = lowerModel(model, schema, dialect);
  const required = new Set(lowered.map(({ notNull }) => notNull));
  const columns = storedFields(model).map((field) => {
    const { type } = dialect.columnType(field);
    const filled = field.generated === null ? defaultText(field, dialect) : (dialect.filling(field) ?? '');
    // A list is never absent, but perhaps empty.
    const list = field.item === null ? '' : " DEFAULT '[]' NOT NULL";
    return `${name(field.column)} ${type}${filled === '' ? '' : ` ${filled}`}${required.has(field.path) ? ' NOT NULL' : ''}${list}`;
  });
  const lines = [...(model.key === null ? [dialect.countingKey] : []), ...columns, ...clauses(lowered)];
  const table = `CREATE TABLE ${name(model.table)} (\n  ${lines.join(',\n  ')}\n)${dialect.tableEnd};`;
  const indexes = Object.entries(model.indexes).map(([called, of]) => {
    const over = of.map((path) => name(fieldAt(model, path).column)).join(', ');
    return `CREATE INDEX ${name(constraintName(`${model.ruleset}.${called}`))} ON ${name(model.table)} (${over});`;
  });
  const statements = lowered.flatMap((one) => one.statements ?? []);
  return [table, ...statements, ...indexes].map((text) => `${text}\n`).join('\n');
}

/** What refers to a table that is made later. */
function laterText(schema: Schema, dialect: Dialect): readonly string[] {
  const later = schema.flatMap((model) => lowerModel(model, schema, dialect).flatMap((one) => one.later ?? []));
  return later.length === 0 ? [] : [`${later.join('\n')}\n`];
}

function defaultText(field: KnownField, dialect: Dialect): string {
  if (field.default === null) return '';
  return dialect.defaultOf(field, printSql(literal(field.default), dialect.spelling));
}

/** The primary key first, as people look for it there; then the constraints in the order in which they are told. */
function clauses(lowered: readonly Lowered[]): readonly string[] {
  const texts = lowered.flatMap(({ clause }) => (clause === undefined ? [] : [clause]));
  const isKey = (text: string) => / PRIMARY KEY \(/.test(text);
  return [...texts.filter(isKey), ...texts.filter((text) => !isKey(text))];
}
