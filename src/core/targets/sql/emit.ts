import type { Schema } from '../../declare/index.js';
import { type KnownField, valueDomain } from '../../kinds/index.js';
import { type Entry, fieldAt } from '../../model/index.js';
import type { MadeFile, Target, Wanted } from '../target.js';
import type { Dialect } from './dialect.js';
import { notGenerated, optionalAround, placeColumn, type Table, tablesOf, typeField } from './layout.js';
import { type LookUp, lookUpsOf } from './look-ups.js';
import { becomes, checked, type Lowered, lowerModel } from './lower.js';
import { constraintName } from './names.js';
import { literal } from './predicates.js';
import { printSql, type Spelling } from './print.js';
import { meetingTables } from './problems.js';
import type { RowWire } from './row-wire.js';
import { type ClauseText, type ColumnText, ownName, type TableText } from './table-text.js';
import { column } from './tree.js';

/** A target that keeps records in tables: what a server needs to know of it, beside what it makes. */
export interface TableTarget extends Target {
  readonly spelling: Spelling;
  readonly wire: RowWire;
  lookUps(model: Schema[number], schema: Schema): readonly LookUp[];
  /** The type of the column that a field has, as the engine writes it; null where it has none. */
  columnType(field: KnownField, model: Schema[number], schema: Schema): string | null;
}

/** A target that writes tables in a dialect of SQL. */
export function sqlTarget(dialect: Dialect): TableTarget {
  const file = (name: string, schema: Schema, text: string): MadeFile => ({
    path: `${dialect.target}/${name}.sql`,
    comment: ['-- ', ''],
    from: schema.map(({ ruleset }) => ruleset),
    text,
  });
  return {
    standsAlone: true,
    spelling: dialect.spelling,
    wire: dialect.wire,
    lookUps: (model, schema) => lookUpsOf(model, schema, dialect),
    columnType: (field, model, schema) => {
      const table = tablesOf(model).find(({ fields }) => fields.some(({ path }) => path === field.path));
      return table === undefined ? null : dialect.columnType(typeField(field, schema), table).type;
    },
    ledger: (schema, wanted) => schema.flatMap((model) => entries(model, schema, dialect, wanted)),
    problems: (schema) => [
      ...meetingTables(schema),
      ...schema.flatMap((model) =>
        tablesOf(model).flatMap((table) => dialect.problems(table, (field) => typeField(field, schema))),
      ),
    ],
    emit: (schema) => {
      const parts = schema.map((model) => partsOf(model, schema, dialect));
      const texts = parts.flatMap(({ tables }) => tables);
      const keys = parts.flatMap(({ later }) => later);
      const made = [
        dialect.guard(texts),
        ...texts.flatMap((text) => [...text.before, ...dialect.createTable(text), ...text.statements]),
        ...keys.map(({ table, name, key }) => dialect.addKey(table, name, key)),
        ...(dialect.ending === '' ? [] : [dialect.ending]),
      ];
      return [
        file('tables', schema, `${made.join('\n\n')}\n`),
        file('drop-tables', schema, `${dialect.drop(texts, keys)}\n`),
      ];
    },
  };
}

function entries(model: Schema[number], schema: Schema, dialect: Dialect, wanted?: Wanted): readonly Entry[] {
  return lowerModel(model, schema, dialect, wanted).map((lowered) => ({
    constraint: lowered.constraint.id,
    target: dialect.target,
    becomes: becomes(lowered, schema, dialect),
    fidelity: lowered.fidelity,
  }));
}

/** The tables of a ruleset, and the foreign keys that wait for the tables of others. */
function partsOf(model: Schema[number], schema: Schema, dialect: Dialect) {
  const lowered = lowerModel(model, schema, dialect);
  const tables = tablesOf(model).map((table) => tableText(table, lowered, schema, dialect));
  const later = lowered.flatMap(({ later, table }) =>
    later === undefined || table === undefined ? [] : [{ table: table.name, name: later.name, key: later.text }],
  );
  return { tables, later };
}

function tableText(table: Table, all: readonly Lowered[], schema: Schema, dialect: Dialect): TableText {
  const own = all.filter((one) => one.table?.of === table.of);
  const required = new Set(own.map(({ notNull }) => notNull));
  const columns = table.fields.map((field): ColumnText => {
    const { type } = dialect.columnType(typeField(field, schema), table);
    // A list is never absent, but perhaps empty.
    const isList = field.item !== null;
    // In an optional record it would make one out of nothing.
    const alone = optionalAround(table, field.path) === null;
    const filled = field.generated !== null ? (dialect.filling(field) ?? '') : alone ? defaultText(field, dialect) : '';
    const rest = isList ? dialect.defaultOf(field, dialect.spelling.text('[]')) : filled;
    return { name: field.column, type, rest, required: isList || required.has(field.path), label: field.label };
  });
  const types = table.fields.flatMap((field) => dialect.columnType(typeField(field, schema), table).before ?? []);
  return {
    table,
    before: [...new Set([...types, ...own.flatMap(({ before }) => before ?? [])])],
    columns: [...keyColumns(table, schema, dialect), ...columns],
    workedOut: own.flatMap((one) => one.columns ?? []),
    clauses: keyFirst([...ownClauses(table, dialect), ...own.flatMap(({ clause }) => clause ?? [])]),
    statements: [
      ...own.flatMap((one) => one.statements ?? []),
      ...(table.of === '' ? indexes(table, schema, dialect) : []),
      ...table.fields.filter(({ generated }) => generated === 'updated').flatMap((one) => dialect.touching(one, table)),
    ],
  };
}

/** What a table has beside its fields: a key that counts, or the key of the table that it belongs to and a place. */
function keyColumns({ key, parent }: Table, schema: Schema, dialect: Dialect): readonly ColumnText[] {
  return key.flatMap(({ name, holds }): readonly ColumnText[] => {
    if (parent === null)
      return holds === 'count' ? [{ name, type: dialect.countingKey, rest: '', required: false, label: 'Number' }] : [];
    if (holds === 'place') return [{ name, type: dialect.placeType, rest: '', required: true, label: 'Place' }];
    if (holds === 'count') return [{ name, type: dialect.countedType, rest: '', required: true, label: parent.label }];
    const field = notGenerated(typeField(holds, schema));
    return [{ name, type: dialect.columnType(field, parent).type, rest: '', required: true, label: holds.label }];
  });
}

/** The constraints of a table that belongs to another: its key, whose rows its own go with, and places from 1. */
function ownClauses(table: Table, dialect: Dialect): readonly ClauseText[] {
  const { parent, key } = table;
  if (parent === null) return [];
  const { name } = dialect.spelling;
  const clause = (what: string, text: string): ClauseText => {
    const called = ownName(table, what);
    return { name: called, text: `CONSTRAINT ${name(called)} ${text}` };
  };
  const own = key.slice(0, parent.key.length).map((one) => name(one.name));
  const theirs = parent.key.map((one) => name(one.name));
  const place = placeColumn(table);
  return [
    clause('key', `PRIMARY KEY (${key.map((one) => name(one.name)).join(', ')})`),
    clause(
      'owner',
      `FOREIGN KEY (${own.join(', ')}) REFERENCES ${name(parent.name)} (${theirs.join(', ')}) ON DELETE CASCADE ON UPDATE CASCADE`,
    ),
    ...(place === null
      ? []
      : [checked(ownName(table, 'place'), { left: column(place), by: '>=', right: { number: 1 } }, dialect)]),
  ];
}

function indexes(table: Table, schema: Schema, dialect: Dialect): readonly string[] {
  const { model } = table;
  return Object.entries(model.indexes).map(([called, of]) =>
    dialect.index(
      constraintName(`${model.ruleset}.${called}`),
      table,
      of.map((path): KnownField => typeField(fieldAt(model, path), schema)),
    ),
  );
}

function defaultText(field: KnownField, dialect: Dialect): string {
  if (field.default === null) return '';
  const isText = typeof field.default === 'string';
  const value = isText ? dialect.literal(field.default, valueDomain(field)) : literal(field.default);
  return dialect.defaultOf(field, printSql(value, dialect.spelling));
}

/** The primary key first, as people look for it there; then the constraints in the order in which they are told. */
function keyFirst(clauses: readonly ClauseText[]): readonly ClauseText[] {
  const isKey = ({ text }: ClauseText) => / PRIMARY KEY \(/.test(text);
  return [...clauses.filter(isKey), ...clauses.filter((clause) => !isKey(clause))];
}
