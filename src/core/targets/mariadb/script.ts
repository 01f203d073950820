import type { KnownField } from '../../kinds/index.js';
import { markOf, ownName, type Table, type TableText, tableLines } from '../sql/index.js';
import { spelling } from './names.js';
import { nowOf } from './readings.js';

const { name, text: quoted } = spelling;
/** A comment on a column holds so many characters. */
const MOST_COMMENT = 1000;

export function createTable(text: TableText): readonly string[] {
  const { table } = text;
  const comment = (words: string) => `COMMENT ${quoted([...words].slice(0, MOST_COMMENT).join(''))}`;
  const lines = tableLines(text, name, (label) => ({ inside: comment(label) }));
  const end = `ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_nopad_bin COMMENT=${quoted(`${table.label} (${markOf(text)})`)}`;
  return [`CREATE TABLE IF NOT EXISTS ${name(table.name)} (\n${lines}\n) ${end};`];
}

/** The catalogue shows types in small letters, whole numbers without their width, and JSON as what it is stored in. */
function catalogueType(type: string): string {
  return type
    .replace(/ (?:CHARACTER SET|AUTO_INCREMENT) .*/, '')
    .replace(/^json$/, 'longtext')
    .replace(/^(tinyint)\(1\)|^(time|datetime)\(0\)/, '$1$2');
}

/**
 * Compares the tables that are there already with those that follow. The message of an error holds so many characters:
 * the first differences are told.
 */
export function guard(texts: readonly TableText[]): string {
  const rows = (all: readonly (readonly string[])[]) =>
    all.map((values) => `SELECT ${values.map(quoted).join(', ')}`).join('\n    UNION ALL ');
  const [first = [], ...others] = texts.map((text) => [text.table.name, markOf(text)]);
  const columns = texts.flatMap(({ table, columns: all }) =>
    all.map((one) => [table.name, one.name, catalogueType(one.type), isRequired(one, table) ? 'NOT NULL' : 'NULL']),
  );
  const named = (values: readonly string[], names: readonly string[]) =>
    `SELECT ${values.map((value, at) => `${quoted(value)} AS ${names[at]}`).join(', ')}`;
  const [head = [], ...rest] = columns;
  return `-- Literals here read a backslash as an escape.
SET @sql_mode_before = @@sql_mode, SESSION sql_mode = replace(@@sql_mode, 'NO_BACKSLASH_ESCAPES', '');

-- Tables of these names that are there already must be these very ones.
SET @differences = (
  WITH
  declared_table AS (
    ${named(first, ['table_name', 'mark'])}${others.length === 0 ? '' : `\n    UNION ALL ${rows(others)}`}),
  declared_column AS (
    ${named(head, ['table_name', 'column_name', 'type', 'required'])}${rest.length === 0 ? '' : `\n    UNION ALL ${rows(rest)}`}),
  there AS (
    SELECT d.table_name, d.mark, t.table_comment FROM declared_table d
    JOIN information_schema.tables t ON t.table_schema = database() AND t.table_name = CONVERT(d.table_name USING utf8mb3)),
  found_column AS (
    SELECT c.table_name, c.column_name, regexp_replace(c.column_type, '^((?:tiny|small|medium|big)?int)\\\\([0-9]+\\\\)', '\\\\1') AS type,
      if(c.is_nullable = 'NO', 'NOT NULL', 'NULL') AS required
    FROM information_schema.columns c JOIN there t ON c.table_name = t.table_name
    WHERE c.table_schema = database() AND c.generation_expression IS NULL),
  difference AS (
    SELECT concat(d.table_name, '.', d.column_name, ' is ', coalesce(concat(f.type, ' ', f.required), 'not there'),
      ', declared ', d.type, ' ', d.required) AS what
    FROM declared_column d JOIN there t ON t.table_name = d.table_name
    LEFT JOIN found_column f ON f.table_name = d.table_name AND f.column_name = d.column_name
    WHERE NOT (d.type <=> f.type AND d.required <=> f.required)
    UNION ALL
    SELECT concat(f.table_name, '.', f.column_name, ' is ', f.type, ', declared not at all') FROM found_column f
    LEFT JOIN declared_column d ON f.table_name = d.table_name AND f.column_name = d.column_name WHERE d.column_name IS NULL
    UNION ALL
    SELECT concat(table_name, ' was made from other rules') FROM there WHERE locate(mark, table_comment) = 0)
  SELECT left(concat('the tables that are there differ: ', group_concat(what SEPARATOR '; ')), 500) FROM difference);
EXECUTE IMMEDIATE if(@differences IS NULL, 'DO 0', 'SIGNAL SQLSTATE ''45000'' SET MESSAGE_TEXT = @differences');`;
}

export const ending = 'SET SESSION sql_mode = @sql_mode_before;';

function isRequired({ name: column, required, type, rest }: TableText['columns'][number], { key, parent }: Table) {
  const isKey = parent === null && key.some((one) => one.name === column);
  return required || isKey || /AUTO_INCREMENT/.test(`${type} ${rest}`);
}

export function addKey(table: string, key: string, text: string): string {
  const put = text.replace(
    /^CONSTRAINT \S+ FOREIGN KEY /,
    `CONSTRAINT ${name(key)} FOREIGN KEY IF NOT EXISTS ${name(key)} `,
  );
  return `ALTER TABLE ${name(table)} ADD ${put};`;
}

export function drop(
  texts: readonly TableText[],
  keys: readonly { readonly table: string; readonly name: string }[],
): string {
  return [
    '-- Drops the tables and every row in them.',
    ...keys.map((key) => `ALTER TABLE IF EXISTS ${name(key.table)} DROP FOREIGN KEY IF EXISTS ${name(key.name)};`),
    texts
      .map(({ table }) => `DROP TABLE IF EXISTS ${name(table.name)};`)
      .reverse()
      .join('\n'),
  ].join('\n\n');
}

/** A trigger: the engine's own ON UPDATE would write the session's zone. */
export function touching(field: KnownField, table: Table): readonly string[] {
  const called = name(ownName(table, 'touched'));
  return [
    `CREATE TRIGGER IF NOT EXISTS ${called} BEFORE UPDATE ON ${name(table.name)} FOR EACH ROW SET NEW.${name(field.column)} = ${nowOf(field)};`,
  ];
}
