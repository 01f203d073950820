import type { Schema } from '../../declare/index.js';
import type { Entry } from '../../model/index.js';
import type { MadeFile, Target } from '../target.js';
import type { Dialect } from './dialect.js';
import { becomes, type Lowered, lowerModel } from './lower.js';

/** A target that writes tables in a dialect of SQL. */
export function sqlTarget(dialect: Dialect): Target {
  return {
    ledger: (schema) => schema.flatMap((model) => entries(model, schema, dialect)),
    emit: (schema): readonly MadeFile[] => [
      {
        path: `${dialect.target}/tables.sql`,
        comment: ['-- ', ''],
        from: schema.map(({ ruleset }) => ruleset),
        text: schema.map((model) => tableText(model, schema, dialect)).join('\n'),
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
  const columns = Object.values(model.fields).map((field) => {
    const { type } = dialect.columnType(field);
    return `${name(field.column)} ${type}${required.has(field.path) ? ' NOT NULL' : ''}`;
  });
  const lines = [...(model.key === null ? [dialect.countingKey] : []), ...columns, ...clauses(lowered)];
  const table = `CREATE TABLE ${name(model.table)} (\n  ${lines.join(',\n  ')}\n)${dialect.tableEnd};`;
  return [table, ...lowered.flatMap(({ statements }) => statements ?? [])].map((text) => `${text}\n`).join('\n');
}

/** The primary key first, as people look for it there; then the constraints in the order in which they are told. */
function clauses(lowered: readonly Lowered[]): readonly string[] {
  const texts = lowered.flatMap(({ clause }) => (clause === undefined ? [] : [clause]));
  const isKey = (text: string) => / PRIMARY KEY \(/.test(text);
  return [...texts.filter(isKey), ...texts.filter((text) => !isKey(text))];
}
