import type { KnownField } from '../../kinds/index.js';
import { markOf, ownName, type Table, type TableText, tableLines } from '../sql/index.js';
import { quoteText, spelling } from './names.js';
import { nowOf } from './types.js';

const { name } = spelling;

export function createTable(text: TableText): readonly string[] {
  const { table, columns } = text;
  const own = name(table.name);
  const lines = tableLines(text, name, () => ({}));
  return [
    `CREATE TABLE IF NOT EXISTS ${own} (\n${lines}\n);`,
    [
      `COMMENT ON TABLE ${own} IS ${quoteText(`${table.label} (${markOf(text)})`)};`,
      ...columns.map(({ name: column, label }) => `COMMENT ON COLUMN ${own}.${name(column)} IS ${quoteText(label)};`),
    ].join('\n'),
  ];
}

/** Catalogues spell some types out. */
function catalogueType(type: string): string {
  return type
    .replace(/ COLLATE .*/, '')
    .replace(/ GENERATED .*/, '')
    .replace(/^(time|timestamp)(\([0-9]\))?$/, '$1$2 without time zone');
}

/** Compares the tables that are there already with those that follow, by the catalogues and by the mark of their rules. */
export function guard(texts: readonly TableText[]): string {
  const row = (...values: readonly string[]) => `(${values.map(quoteText).join(', ')})`;
  const tables = texts.map((text) => row(text.table.name, markOf(text)));
  const columns = texts.flatMap(({ table, columns: all }) =>
    all.map((one) => row(table.name, one.name, catalogueType(one.type), isRequired(one, table) ? 'NOT NULL' : 'NULL')),
  );
  const constraints = texts.flatMap(({ table, clauses }) => clauses.map((one) => row(table.name, one.name)));
  return `-- Tables of these names that are there already must be these very ones.
DO $guard$
DECLARE differences text;
BEGIN
  WITH
    declared_table (table_name, mark) AS (VALUES ${tables.join(', ')}),
    declared_column (table_name, column_name, type, required) AS (VALUES
      ${columns.join(',\n      ')}),
    declared_constraint (table_name, name) AS (VALUES
      ${constraints.join(',\n      ')}),
    here AS (SELECT table_name, mark, to_regclass(quote_ident(table_name)) AS oid FROM declared_table),
    there AS (SELECT table_name, mark, oid FROM here WHERE oid IS NOT NULL),
    found_column AS (
      SELECT table_name, attname::text AS column_name, format_type(atttypid, atttypmod) AS type,
        CASE WHEN attnotnull THEN 'NOT NULL' ELSE 'NULL' END AS required
      FROM there JOIN pg_attribute ON attrelid = oid AND attnum > 0 AND NOT attisdropped),
    difference (what) AS (
      SELECT table_name || '.' || coalesce(d.column_name, f.column_name) || ' is '
        || coalesce(f.type || ' ' || f.required, 'not there') || ', declared ' || coalesce(d.type || ' ' || d.required, 'not at all')
      FROM (SELECT d.* FROM declared_column d JOIN there USING (table_name)) d
      FULL JOIN found_column f USING (table_name, column_name)
      WHERE (d.type, d.required) IS DISTINCT FROM (f.type, f.required)
      UNION ALL
      SELECT table_name || ' has no constraint ' || d.name FROM there JOIN declared_constraint d USING (table_name)
      WHERE NOT EXISTS (SELECT FROM pg_constraint WHERE conrelid = there.oid AND conname = d.name)
      UNION ALL
      SELECT table_name || ' was made from other rules' FROM there
      WHERE strpos(coalesce(obj_description(oid, 'pg_class'), ''), mark) = 0)
  SELECT string_agg(what, '; ' ORDER BY what) INTO differences FROM difference;
  IF differences IS NOT NULL THEN
    RAISE EXCEPTION 'the tables that are there differ: %', differences
      USING HINT = 'Nothing was changed. Rename or drop them, or change them by hand to what is declared.';
  END IF;
END
$guard$;`;
}

/** What an identity or a key is, though its line does not say it. */
function isRequired({ name: column, required, type, rest }: TableText['columns'][number], { key, parent }: Table) {
  const isKey = parent === null && key.some((one) => one.name === column);
  return required || isKey || / IDENTITY/.test(`${type} ${rest}`);
}

export function addKey(table: string, key: string, text: string): string {
  return `DO $$ BEGIN
  IF NOT EXISTS (SELECT FROM pg_constraint WHERE conname = ${quoteText(key)} AND conrelid = to_regclass(${quoteText(name(table))})) THEN
    ALTER TABLE ${name(table)} ADD ${text};
  END IF;
END $$;`;
}

export const ending = '';

export function drop(texts: readonly TableText[]): string {
  const tables = texts.map(({ table }) => name(table.name)).reverse();
  const before = texts.flatMap((text) => text.before);
  const named = (pattern: RegExp) => before.flatMap((one) => pattern.exec(one)?.[1] ?? []);
  const triggers = texts.flatMap(({ table }) =>
    table.fields.some(({ generated }) => generated === 'updated') ? [`${name(ownName(table, 'touched'))}()`] : [],
  );
  const functions = [...named(/CREATE OR REPLACE FUNCTION ("(?:[^"]|"")+"|[^"(]+)/), ...triggers];
  return [
    '-- Drops the tables and every row in them.',
    `DROP TABLE IF EXISTS ${tables.join(', ')};`,
    ...functions.map((one) => `DROP FUNCTION IF EXISTS ${one};`),
    ...named(/CREATE TYPE (.+?) AS ENUM/).map((type) => `DROP TYPE IF EXISTS ${type};`),
  ].join('\n\n');
}

/** A trigger: no default speaks when a row is changed. */
export function touching(field: KnownField, table: Table): readonly string[] {
  const called = name(ownName(table, 'touched'));
  return [
    `CREATE OR REPLACE FUNCTION ${called}() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  NEW.${name(field.column)} := ${nowOf(field)};
  RETURN NEW;
END $$;`,
    `CREATE OR REPLACE TRIGGER ${called} BEFORE UPDATE ON ${name(table.name)} FOR EACH ROW EXECUTE FUNCTION ${called}();`,
  ];
}
