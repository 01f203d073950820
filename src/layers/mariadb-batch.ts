import { placeColumn, tableTargets } from '../core/targets/index.js';
import type { Columns, Connection } from '../server/connections/index.js';
import { type Inserted, wholeRow } from '../server/insert.js';
import type { RowToWrite } from '../server/rows.js';
import type { Attempt, Outcome } from './tables.js';

const { spelling, wire } = tableTargets.mariadb;

/**
 * Tries many cases in one call: a compound statement outside any procedure, with a handler and a savepoint a case.
 * Nothing is created; the variables have names that no column has, which they would hide. Each row is read back by its key, as a result of its own; a marker follows the results of each
 * case. (An INSERT that gives rows itself, and fails, leaves half a result behind, and its reader in the dark.)
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
${blocks.join('\n')}
END`);
  const outcomes: (Outcome | null)[] = attempts.map(() => null);
  let rows: (Columns | null)[] = [];
  for (const result of results) {
    const [first] = result;
    if (first?.probe_case === undefined) {
      rows.push(first ?? null);
      continue;
    }
    const at = Number(first.probe_case);
    const attempt = attempts[at];
    if (attempt !== undefined) outcomes[at] = outcome(flat(attempt.row), rows, first);
    rows = [];
  }
  return outcomes;
}

/**
 * A row that is not found by the key that was sent: the engine stored another key, or it refused the row by 1265, which
 * is a note as well as an error and stops no compound statement. It is tried by itself.
 */
function outcome(all: readonly RowToWrite[], rows: readonly (Columns | null)[], marker: Columns): Outcome | null {
  const [root] = all;
  if (root === undefined) throw new Error('a case without a row');
  if (marker.probe_code !== null) {
    if (rows.includes(null)) return null;
    const said = String(marker.probe_said);
    const error = Object.assign(new Error(said), { errno: Number(marker.probe_code), sqlState: '' });
    return { error, row: all[Number(marker.probe_step) - 1] ?? root };
  }
  if (rows.includes(null)) return null;
  return { inserted: rows.map((columns, at): Inserted => ({ row: all[at] ?? root, columns })) };
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
  const inserts = rows.map((row, index) => {
    const isRoot = row.table.parent === null;
    // A key that the engine counts is the last one that it gave.
    const owner = keys.map((key) => (key === null ? '@probe_key' : literal(key)));
    const columns = isRoot ? row.columns : wholeRow(row, []);
    const own = isRoot ? [] : row.table.key.slice(0, keys.length);
    const names = [...own, ...columns].map(({ name }) => spelling.name(name)).join(', ');
    const values = [...(isRoot ? [] : owner), ...columns.map(({ value }) => literal(value))].join(', ');
    const what = names === '' ? wire.emptyRow : `(${names}) VALUES (${values})`;
    const counted = isRoot && keys.includes(null) ? ' SET @probe_key = last_insert_id();' : '';
    const place = placeColumn(row.table);
    const found = [
      ...owner.map((value, part) => `${spelling.name(row.table.key[part]?.name ?? '')} = ${value}`),
      ...(place === null ? [] : [`${spelling.name(place)} = ${columns[0]?.value}`]),
    ];
    const table = spelling.name(row.table.name);
    return `  SET echo_rule_step = ${index + 1}; INSERT INTO ${table} ${what};${counted}
  SELECT * FROM ${table} WHERE ${found.join(' AND ')};`;
  });
  return `BEGIN
  DECLARE CONTINUE HANDLER FOR 1265 BEGIN END;
  DECLARE EXIT HANDLER FOR SQLEXCEPTION BEGIN
    GET DIAGNOSTICS CONDITION 1 echo_rule_code = MYSQL_ERRNO, echo_rule_said = MESSAGE_TEXT;
    ROLLBACK TO probe;
    SELECT ${at} AS probe_case, echo_rule_step AS probe_step, echo_rule_code AS probe_code, echo_rule_said AS probe_said;
  END;
  SAVEPOINT probe;
${inserts.join('\n')}
  ROLLBACK TO probe;
  SELECT ${at} AS probe_case, echo_rule_step AS probe_step, NULL AS probe_code, NULL AS probe_said;
END;`;
}
