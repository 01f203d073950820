import type { KnownField } from '../../kinds/index.js';
import { markOf, ownName, type Table, type TableText, tableLines } from '../sql/index.js';
import { spelling } from './names.js';
import { nowOf } from './types.js';

const { name, text: quoted } = spelling;

/** The engine keeps the text of a table with its comments: labels stand there, and the mark of the rules. */
export function createTable(text: TableText): readonly string[] {
  const { table } = text;
  const plain = (label: string) => label.replace(/\s+/gu, ' ').replaceAll('\ufffd', '');
  const lines = tableLines(text, name, (label) => ({ note: plain(label) }));
  const head = `CREATE TABLE IF NOT EXISTS ${name(table.name)} ( -- ${plain(table.label)} (${markOf(text)})`;
  return [`${head}\n${lines}\n) STRICT;`];
}

/**
 * Compares the tables that are there already with those that follow. Outside a trigger the engine has no statement that
 * raises an error with a text that was worked out; the path of json_extract() is one, and the message quotes it.
 */
export function guard(texts: readonly TableText[]): string {
  const row = (...values: readonly string[]) => `(${values.map(quoted).join(', ')})`;
  const tables = texts.map((text) => row(text.table.name, markOf(text)));
  const columns = texts.flatMap(({ table, columns: all }) =>
    all.map((one) => row(table.name, one.name, one.type.split(' ')[0] ?? '', one.required ? 'NOT NULL' : 'NULL')),
  );
  return `-- Tables of these names that are there already must be these very ones.
WITH
  declared_table (table_name, mark) AS (VALUES ${tables.join(', ')}),
  declared_column (table_name, column_name, type, required) AS (VALUES
    ${columns.join(',\n    ')}),
  there AS (SELECT table_name, mark, sql FROM declared_table JOIN sqlite_master ON type = 'table' AND name = table_name),
  found_column AS (
    SELECT table_name, name AS column_name, type, iif("notnull", 'NOT NULL', 'NULL') AS required
    FROM there JOIN pragma_table_info(table_name)),
  difference (what) AS (
    SELECT d.table_name || '.' || d.column_name || ' is ' || coalesce(f.type || ' ' || f.required, 'not there')
      || ', declared ' || d.type || ' ' || d.required
    FROM there JOIN declared_column d USING (table_name)
    LEFT JOIN found_column f ON f.table_name = d.table_name AND f.column_name = d.column_name
    WHERE (d.type, d.required) IS NOT (f.type, f.required)
      AND NOT (d.type IS f.type AND EXISTS (
        SELECT 1 FROM pragma_table_info(d.table_name) AS info WHERE info.name = d.column_name AND info.pk > 0))
    UNION ALL
    SELECT f.table_name || '.' || f.column_name || ' is ' || f.type || ', declared not at all'
    FROM found_column f LEFT JOIN declared_column d ON f.table_name = d.table_name AND f.column_name = d.column_name
    WHERE d.column_name IS NULL
    UNION ALL
    SELECT table_name || ' was made from other rules' FROM there WHERE instr(sql, mark) = 0)
SELECT json_extract('{}', 'the tables that are there differ: ' || differences)
FROM (SELECT group_concat(what, '; ') AS differences FROM difference) WHERE differences IS NOT NULL;`;
}

export function addKey(): string {
  throw new Error('a table refers ahead by itself');
}

/** Foreign keys are judged at the end, when all that they bind is gone. */
export const ending = '';

export function drop(texts: readonly TableText[]): string {
  // What a deleted row takes with it is worked out over all tables that refer to each other in a circle: one of them is
  // gone by then. Only outside a transaction can that be switched off.
  const isCircle = texts.some(({ clauses }, at) =>
    texts
      .slice(at + 1)
      .some(({ table }) => clauses.some(({ text }) => text.includes(`REFERENCES ${name(table.name)} (`))),
  );
  return [
    '-- Drops the tables and every row in them.',
    isCircle ? 'PRAGMA foreign_keys = OFF;\nBEGIN;' : 'BEGIN;\nPRAGMA defer_foreign_keys = ON;',
    texts
      .map(({ table }) => `DROP TABLE IF EXISTS ${name(table.name)};`)
      .reverse()
      .join('\n'),
    isCircle ? 'COMMIT;\nPRAGMA foreign_keys = ON;' : 'COMMIT;',
  ].join('\n\n');
}

/** A trigger: no default speaks when a row is changed. It does not call itself, as triggers don't unless asked. */
export function touching(field: KnownField, table: Table): readonly string[] {
  const own = name(table.name);
  return [
    `CREATE TRIGGER IF NOT EXISTS ${name(ownName(table, 'touched'))} AFTER UPDATE ON ${own} BEGIN
  UPDATE ${own} SET ${name(field.column)} = ${nowOf(field)} WHERE rowid = NEW.rowid;
END;`,
  ];
}
