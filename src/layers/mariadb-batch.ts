import { placeColumn, tableTargets } from '../core/targets/index.js';
import type { Connection } from '../server/connections/index.js';
import { type Inserted, wholeRow } from '../server/insert.js';
import type { RowToWrite } from '../server/rows.js';
import type { Attempt, Outcome } from './tables.js';

const { spelling, wire } = tableTargets.mariadb;

/** What the statement tells of a case: the columns of the rows that went in, or what the engine said of which row. */
type Told = readonly [
  at: number,
  step: number,
  code: number | null,
  said: string | null,
  rows: readonly (readonly (string | null)[] | null)[],
];

/**
 * Tries many cases in one call: a compound statement outside any procedure, with a handler a case that undoes it.
 * Nothing is created; the variables have names that no column has, which they would hide. The answers come back as one
 * text. (An INSERT that gives its row itself, and fails, leaves half a result behind, and its reader in the dark.)
 */
export async function mariadbBatch(
  connection: Connection,
  attempts: readonly Attempt[],
): Promise<readonly (Outcome | null)[]> {
  const blocks = attempts.flatMap(({ row }, at) => (fits(row) ? [block(flat(row), at)] : []));
  if (blocks.length === 0) return attempts.map(() => null);
  const results = await connection.run(`BEGIN NOT ATOMIC
DECLARE echo_rule_step, echo_rule_code INT;
DECLARE echo_rule_said TEXT CHARACTER SET utf8mb4;
DECLARE echo_rule_row, echo_rule_rows, echo_rule_told LONGTEXT CHARACTER SET utf8mb4;
SAVEPOINT echo_rule_probe;
${blocks.join('\n')}
SELECT echo_rule_told AS answers;
END`);
  const told = JSON.parse(`[${results.at(-1)?.[0]?.answers ?? ''}]`) as readonly Told[];
  const byCase = new Map(told.map((one) => [one[0], one]));
  return attempts.map(({ row }, at) => {
    const one = byCase.get(at);
    return one === undefined ? null : outcome(flat(row), one);
  });
}

/**
 * A row that is not found by the key that was sent: the engine stored another key, or it refused the row by 1265, which
 * is a note as well as an error and stops no compound statement. It is tried by itself.
 */
function outcome(all: readonly RowToWrite[], [, step, code, said, rows]: Told): Outcome | null {
  const [root] = all;
  if (root === undefined || rows.includes(null)) return null;
  if (code !== null) return { error: { message: said, errno: code, sqlState: '' }, row: all[step - 1] ?? root };
  return {
    inserted: rows.map((values, index): Inserted => {
      const row = all[index] ?? root;
      const columns = columnNames(row).map((name, place) => [name, values?.[place] ?? null] as const);
      return { row, columns: Object.fromEntries(columns) };
    }),
  };
}

/** A record's rows, each after the one that it belongs to. */
function flat(row: RowToWrite): readonly RowToWrite[] {
  return [row, ...row.belonging.flatMap(flat)];
}

/** A key that is neither sent nor counted can't be found again. */
function fits(row: RowToWrite): boolean {
  const { key } = row.table;
  const isFound = key.every(({ name, holds }) => {
    const counts = holds === 'count' || (holds !== 'place' && holds.generated === 'identity');
    return counts || (keyValue(row, name) ?? null) !== null;
  });
  return isFound && row.belonging.every(({ belonging }) => belonging.length === 0);
}

function keyValue({ columns }: RowToWrite, name: string): unknown {
  return columns.find((column) => column.name === name)?.value;
}

/** The columns that are read back, in their order. */
function columnNames({ table: { key, fields } }: RowToWrite): readonly string[] {
  return [...new Set([...key.map(({ name }) => name), ...fields.map(({ column }) => column)])];
}

/** Text by its bytes: that is the same whatever the session says of backslashes. */
function literal(value: unknown): string {
  if (value === null || value === undefined) return 'NULL';
  if (typeof value === 'number' || typeof value === 'boolean' || typeof value === 'bigint') return String(value);
  const bytes = [...new TextEncoder().encode(String(value))];
  return `CONVERT(x'${bytes.map((byte) => byte.toString(16).padStart(2, '0')).join('')}' USING utf8mb4)`;
}

function block(rows: readonly RowToWrite[], at: number): string {
  const [root] = rows;
  const keys = (root?.table.key ?? []).map(({ name }) => (root === undefined ? null : (keyValue(root, name) ?? null)));
  const tries = rows.map((row, index) => {
    const isRoot = row.table.parent === null;
    // A key that the engine counts is the last one that it gave.
    const owner = keys.map((key) => (key === null ? '@echo_rule_key' : literal(key)));
    const columns = isRoot ? row.columns : wholeRow(row, []);
    const own = isRoot ? [] : row.table.key.slice(0, keys.length);
    const names = [...own, ...columns].map(({ name }) => spelling.name(name)).join(', ');
    const values = [...(isRoot ? [] : owner), ...columns.map(({ value }) => literal(value))].join(', ');
    const what = names === '' ? wire.emptyRow : `(${names}) VALUES (${values})`;
    const counted = isRoot && keys.includes(null) ? ' SET @echo_rule_key = last_insert_id();' : '';
    const place = placeColumn(row.table);
    const found = [
      ...owner.map((value, part) => `${spelling.name(row.table.key[part]?.name ?? '')} = ${value}`),
      ...(place === null ? [] : [`${spelling.name(place)} = ${columns[0]?.value}`]),
    ];
    const table = spelling.name(row.table.name);
    const read = columnNames(row).map((name) => `CAST(${spelling.name(name)} AS CHAR)`);
    return `  SET echo_rule_step = ${index + 1}, echo_rule_row = NULL;
  INSERT INTO ${table} ${what};${counted}
  SELECT json_array(${read.join(', ')}) INTO echo_rule_row FROM ${table} WHERE ${found.join(' AND ')} LIMIT 1;
  SET echo_rule_rows = concat_ws(',', echo_rule_rows, coalesce(echo_rule_row, 'null'));`;
  });
  const tell = (code: string, said: string) =>
    `SET echo_rule_told = concat_ws(',', echo_rule_told, concat('[${at},', echo_rule_step, ',', ${code}, ',', ${said}, ',[', coalesce(echo_rule_rows, ''), ']]'));`;
  return `BEGIN
  DECLARE CONTINUE HANDLER FOR 1265, 1329 BEGIN END;
  DECLARE EXIT HANDLER FOR SQLEXCEPTION BEGIN
    GET DIAGNOSTICS CONDITION 1 echo_rule_code = MYSQL_ERRNO, echo_rule_said = MESSAGE_TEXT;
    ROLLBACK TO echo_rule_probe;
    ${tell('echo_rule_code', 'json_quote(echo_rule_said)')}
  END;
  SET echo_rule_rows = NULL;
${tries.join('\n')}
  ROLLBACK TO echo_rule_probe;
  ${tell("'null'", "'null'")}
END;`;
}
