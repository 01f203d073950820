import type { Schema } from '../core/declare/index.js';
import type { KnownField } from '../core/kinds/index.js';
import { allFields, type Home, type Path } from '../core/model/index.js';
import { type ColumnSpelling, columnFormOf, misspelled } from './column-forms.js';

/** What a table that was not made here calls things: only what it calls otherwise than declared. */
export interface TableNames {
  readonly table?: string;
  /** Columns by the paths of their fields (`loadOn`, `shelf.bay`, `helpers[]`): what they are called, and how they spell values. */
  readonly columns?: { readonly [path: Path]: string | ColumnSpelling };
  /** The tables of lists, and of records with a table of their own, by path. Places of entries count from 1. */
  readonly lists?: { readonly [path: Path]: Home };
}

/** The names of a database's tables, by ruleset. */
export interface OtherNames {
  readonly [ruleset: string]: TableNames;
}

/** What of the names is about nothing that is declared, in words; null where all of it is. */
export function unfitName(schema: Schema, names: OtherNames, engine: string): string | null {
  for (const [ruleset, { columns = {}, lists = {} }] of Object.entries(names)) {
    const model = schema.find((one) => one.ruleset === ruleset);
    if (model === undefined) return `names: there is no ruleset ${ruleset}`;
    const fields = new Map(allFields(model).map((field) => [field.path, field]));
    const lost = [...Object.keys(columns), ...Object.keys(lists)].find((path) => !fields.has(path));
    if (lost !== undefined) return `names: ${ruleset} has no field ${lost}`;
    for (const [path, spelling] of Object.entries(columns)) {
      const why = misspelled(fields.get(path) as KnownField, spelling, engine);
      if (why !== null) return why;
    }
  }
  return null;
}

/** The schema with what a database calls its tables and columns. */
export function withNames(schema: Schema, names: OtherNames): Schema {
  return schema.map((model) => {
    const own = names[model.ruleset];
    if (own === undefined) return model;
    const { table = model.table, columns = {}, lists = {} } = own;
    return { ...model, table, homes: lists, fields: renamed(model.fields, columns) };
  });
}

type Fields = { readonly [name: string]: KnownField };

type Columns = NonNullable<TableNames['columns']>;

function renamed(fields: Fields, columns: Columns): Fields {
  return Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, renamedField(field, columns)]));
}

function renamedField(field: KnownField, columns: Columns): KnownField {
  const { path, fields, item } = field;
  const spelling = Object.hasOwn(columns, path) ? (columns[path] ?? field.column) : field.column;
  return {
    ...field,
    column: typeof spelling === 'string' ? spelling : (spelling.column ?? field.column),
    columnForm: columnFormOf(field, spelling),
    fields: fields === null ? null : renamed(fields, columns),
    item: item === null ? null : renamedField(item, columns),
  };
}
