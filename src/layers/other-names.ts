import type { Schema } from '../core/declare/index.js';
import type { KnownField } from '../core/kinds/index.js';
import { allFields, type Home, type Path } from '../core/model/index.js';

/** What a table that was not made here calls things: only what it calls otherwise than declared. */
export interface TableNames {
  readonly table?: string;
  /** Columns by the paths of their fields: `loadOn`, `shelf.bay`, `helpers[]`. */
  readonly columns?: { readonly [path: Path]: string };
  /** The tables of lists, and of records with a table of their own, by path. Places of entries count from 1. */
  readonly lists?: { readonly [path: Path]: Home };
}

/** The names of a database's tables, by ruleset. */
export interface OtherNames {
  readonly [ruleset: string]: TableNames;
}

/** What of the names is about nothing that is declared, in words; null where all of it is. */
export function strangeName(schema: Schema, names: OtherNames): string | null {
  for (const [ruleset, { columns = {}, lists = {} }] of Object.entries(names)) {
    const model = schema.find((one) => one.ruleset === ruleset);
    if (model === undefined) return `names: there is no ruleset ${ruleset}`;
    const paths = new Set(allFields(model).map(({ path }) => path));
    const lost = [...Object.keys(columns), ...Object.keys(lists)].find((path) => !paths.has(path));
    if (lost !== undefined) return `names: ${ruleset} has no field ${lost}`;
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

function renamed(fields: Fields, columns: { readonly [path: Path]: string }): Fields {
  return Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, renamedField(field, columns)]));
}

function renamedField(field: KnownField, columns: { readonly [path: Path]: string }): KnownField {
  const { path, column, fields, item } = field;
  return {
    ...field,
    column: Object.hasOwn(columns, path) ? (columns[path] ?? column) : column,
    fields: fields === null ? null : renamed(fields, columns),
    item: item === null ? null : renamedField(item, columns),
  };
}
