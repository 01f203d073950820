import { isTable, type Schema, snakeCase } from '../../declare/index.js';
import { isScalar, isTextual, type KnownField, targetOf } from '../../kinds/index.js';
import { allFields, type Path } from '../../model/index.js';
import { longest } from './lengths.js';
import { cutName } from './names.js';

type Model = Schema[number];
type Fields = { readonly [name: string]: KnownField };

/** A column that tells rows apart: a field's, one that counts, or an item's place in its list, from 1. */
export interface KeyColumn {
  readonly name: string;
  readonly holds: KnownField | 'count' | 'place';
}

/** One table: a ruleset's own, or that of a list or of a record within it. */
export interface Table {
  readonly model: Model;
  readonly name: string;
  /** '' for the ruleset's own, otherwise the path of the list or record. */
  readonly of: Path;
  readonly label: string;
  /** The fields of its columns, but for what comes from the table that it belongs to. */
  readonly fields: readonly KnownField[];
  /** Outermost first: the key of the table that it belongs to, then an item's place. */
  readonly key: readonly KeyColumn[];
  /** The table that it belongs to: its rows go with that table's. */
  readonly parent: Table | null;
  /** The most characters of each text in it, by path; worked out when it is first asked for. */
  readonly lengths: () => ReadonlyMap<Path, number>;
}

/** The tables of a ruleset, each after the one that it belongs to. */
export function tablesOf(model: Model): readonly Table[] {
  const key = model.key === null ? undefined : model.fields[model.key];
  const root: Table = {
    model,
    name: model.table,
    of: '',
    label: model.label,
    fields: columnsAmong(model.fields),
    key: [key === undefined ? { name: 'id', holds: 'count' } : { name: key.column, holds: key }],
    parent: null,
    lengths: lengthsOf(columnsAmong(model.fields)),
  };
  return [root, ...within(model.fields, root)];
}

/** The table at a path, such as one that `homeOf` names. */
export function tableAt(model: Model, of: Path): Table {
  const found = tablesOf(model).find((table) => table.of === of);
  if (found === undefined) throw new Error(`no table for ${model.ruleset}.${of}`);
  return found;
}

/** The fields of all columns of a ruleset's tables. */
export function storedFields(model: Model): readonly KnownField[] {
  return tablesOf(model).flatMap(({ fields }) => fields);
}

/** The column of an item's place; null in a table without one. */
export function placeColumn({ key }: Table): string | null {
  return key.find(({ holds }, at) => holds === 'place' && at === key.length - 1)?.name ?? null;
}

const inDatabase = ({ enforcedIn }: KnownField) => enforcedIn.includes('database');

/** The fields with a column in the same table: records taken apart, lists that are kept as JSON. */
function columnsAmong(fields: Fields): readonly KnownField[] {
  return Object.values(fields)
    .filter(inDatabase)
    .flatMap((field) => {
      if (isTable(field)) return [];
      return field.fields === null ? [field] : columnsAmong(field.fields);
    });
}

function within(fields: Fields, parent: Table): readonly Table[] {
  return Object.values(fields)
    .filter(inDatabase)
    .flatMap((field) => {
      if (isTable(field)) return ownTable(field, parent);
      return field.fields === null ? [] : within(field.fields, parent);
    });
}

function ownTable(field: KnownField, parent: Table): readonly Table[] {
  const { item } = field;
  const inside: Fields = item === null ? (field.fields ?? {}) : (item.fields ?? { item });
  const home = parent.model.homes?.[field.path] ?? {};
  const whose = parent.key.map((column, at) => {
    const key = renamed(column, at, parent);
    return at === 0 && home.owner !== undefined ? { ...key, name: home.owner } : key;
  });
  const table: Table = {
    model: parent.model,
    name: home.table ?? cutName(`${parent.name}_${field.column}`),
    of: field.path,
    label: field.label,
    fields: columnsAmong(inside),
    key: [...whose, ...(item === null ? [] : [{ ...place, name: home.position ?? place.name }])],
    parent,
    lengths: lengthsOf(columnsAmong(inside)),
  };
  return [table, ...within(inside, table)];
}

function lengthsOf(fields: readonly KnownField[]): Table['lengths'] {
  let found: ReadonlyMap<Path, number> | null = null;
  return () => {
    found ??= new Map(fields.filter(isTextual).map((field) => [field.path, longest(field)]));
    return found;
  };
}

const place: KeyColumn = { name: 'position', holds: 'place' };

/** Of the parent's key the part that is its own gets a name that says whose it is. */
function renamed({ name, holds }: KeyColumn, at: number, { key, of, parent, model }: Table): KeyColumn {
  if (parent !== null && (at < key.length - 1 || holds !== 'place')) return { name, holds };
  const owner =
    parent === null
      ? model.ruleset
      : (of
          .split(/[.[\]]+/)
          .filter((step) => step !== '')
          .at(-1) ?? of);
  return { name: cutName(`${snakeCase(owner)}_${name}`), holds };
}

/** The optional record that a field's column is in, if it is in any: its fields' columns are NULL together. */
export function optionalAround(table: Table, path: Path): KnownField | null {
  const records = allFields(table.model).filter(
    (field) => field.fields !== null && field.optional && !isTable(field) && path.startsWith(`${field.path}.`),
  );
  const own = records.filter(({ path: at }) => at.length > table.of.length && at.startsWith(table.of));
  return own.at(-1) ?? null;
}

/** The scalar fields within a record that have a column in this table, and whether it holds anything beside. */
export function columnsOf(record: KnownField): { readonly scalars: readonly KnownField[]; readonly more: boolean } {
  const columns = columnsAmong(record.fields ?? {});
  const scalars = columns.filter(isScalar);
  const tables = Object.values(record.fields ?? {}).some((field) => isTable(field));
  return { scalars, more: tables || scalars.length < columns.length };
}

/** The field that a column's type follows: the key that a reference leads to, under the reference's own column. */
export function typeField(field: KnownField, schema: Schema): KnownField {
  const target = targetOf(field);
  const there = target === null ? undefined : schema.find(({ ruleset }) => ruleset === target.to);
  const key = target === null ? undefined : there?.fields[target.key];
  if (key === undefined) return field;
  const { path, name, column, optional, label } = field;
  const { onDelete } = field.facets;
  const typed = typeField(key, schema);
  const facets = onDelete === undefined ? typed.facets : { ...typed.facets, onDelete };
  return { ...notGenerated(typed), facets, path, name, column, optional, label, default: null };
}

/** A generated key as another column holds it: engines count in numbers only, however the rest of a table is kept. */
export function notGenerated(key: KnownField): KnownField {
  return { ...key, generated: null, storage: key.generated === 'identity' ? 'natural' : key.storage };
}
