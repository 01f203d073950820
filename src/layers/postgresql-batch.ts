import { tableTargets } from '../core/targets/index.js';
import type { Columns, Connection } from '../server/connections/index.js';
import { type Inserted, wholeRow } from '../server/insert.js';
import type { RowToWrite } from '../server/rows.js';
import type { Attempt, Outcome } from './tables.js';

const { spelling } = tableTargets.postgresql;

/** What the block tells of a case: the rows that went in, or what the engine said of which row. */
type Told =
  | { readonly at: number; readonly rows: readonly (Columns | null)[] }
  | { readonly at: number; readonly failed: number; readonly error: { readonly [field: string]: string } };

/**
 * Tries many cases in one call: an anonymous block with an exception handler a case, which undoes it. Nothing is
 * created; the answers come back in a setting of the transaction. A text with U+0000 can't stand in a statement: it is
 * tried by itself.
 */
export async function postgresqlBatch(
  connection: Connection,
  attempts: readonly Attempt[],
): Promise<readonly (Outcome | null)[]> {
  const blocks = attempts.flatMap(({ row }, at) => (fits(row) ? [block(flat(row), at)] : []));
  if (blocks.length === 0) return attempts.map(() => null);
  const sql = `DO $probe$
DECLARE
  answers text[] := '{}';
  owner record;
  stored record;
  told jsonb;
  step integer;
  state text; said text; rule text; col text; tab text;
BEGIN
${blocks.join('\n')}
  PERFORM set_config('echo_rule.answers', '[' || array_to_string(answers, ',') || ']', true);
END
$probe$`;
  await connection.run(sql);
  const [first] = await connection.rows("SELECT current_setting('echo_rule.answers') AS answers");
  const told = JSON.parse(String(first?.answers)) as readonly Told[];
  const byCase = new Map(told.map((one) => [one.at, one]));
  return attempts.map(({ row }, at): Outcome | null => {
    const one = byCase.get(at);
    if (one === undefined) return null;
    const rows = flat(row);
    if ('error' in one) return { error: errorOf(one.error), row: rows[one.failed - 1] ?? row };
    return { inserted: one.rows.map((columns, index): Inserted => ({ row: rows[index] ?? row, columns })) };
  });
}

/** The shape in which drivers hand on what the engine says. */
function errorOf({ message, ...fields }: { readonly [field: string]: string }): Error {
  return Object.assign(
    new Error(message),
    Object.fromEntries(Object.entries(fields).filter(([, text]) => text !== '')),
  );
}

/** A record's rows, each after the one that it belongs to. */
function flat(row: RowToWrite): readonly RowToWrite[] {
  return [row, ...row.belonging.flatMap(flat)];
}

function fits(row: RowToWrite): boolean {
  return flat(row).every(({ columns, belonging, table }) => {
    const single = belonging.every(({ belonging: inner }) => inner.length === 0);
    return table.parent?.parent == null && single && columns.every(({ value }) => !String(value).includes('\0'));
  });
}

function literal(value: unknown): string {
  return value === null || value === undefined ? 'NULL' : spelling.text(String(value));
}

/** One case: each insert gives its row back, or nothing where a trigger swallowed it; at the end all is undone. */
function block(rows: readonly RowToWrite[], at: number): string {
  const [root] = rows;
  const key = root?.table.key ?? [];
  const inserts = rows.map((row, index) => {
    const isRoot = row.table.parent === null;
    const columns = isRoot ? row.columns : wholeRow(row, []);
    const names = [...(isRoot ? [] : row.table.key.slice(0, key.length)), ...columns].map(({ name }) =>
      spelling.name(name),
    );
    const owner = isRoot ? [] : key.map(({ name }) => `owner.${spelling.name(name)}`);
    const values = [...owner, ...columns.map(({ value }) => literal(value))];
    const what = values.length === 0 ? 'DEFAULT VALUES' : `(${names.join(', ')}) VALUES (${values.join(', ')})`;
    const table = spelling.name(row.table.name);
    const all = [...row.table.key, ...row.table.fields.map(({ column }) => ({ name: column }))];
    const parts = [...new Set(all.map(({ name }) => name))].map(
      (name) => `${literal(name)}, stored.${spelling.name(name)}::text`,
    );
    return `    step := ${index + 1};
    INSERT INTO ${table} ${what} RETURNING * INTO stored;
    IF NOT FOUND THEN
      told := told || '[null]'::jsonb;
      RAISE EXCEPTION USING ERRCODE = 'ERU00';
    END IF;
    told := told || jsonb_build_array(${objectOf(parts)});${isRoot ? ' owner := stored;' : ''}`;
  });
  return `  BEGIN
    told := '[]';
${inserts.join('\n')}
    RAISE EXCEPTION USING ERRCODE = 'ERU00';
  EXCEPTION
    WHEN SQLSTATE 'ERU00' THEN answers := answers || jsonb_build_object('at', ${at}, 'rows', told)::text;
    WHEN OTHERS THEN
      GET STACKED DIAGNOSTICS state = RETURNED_SQLSTATE, said = MESSAGE_TEXT, rule = CONSTRAINT_NAME, col = COLUMN_NAME, tab = TABLE_NAME;
      answers := answers || jsonb_build_object('at', ${at}, 'failed', step, 'error', jsonb_build_object(
        'code', state, 'message', said, 'constraint', rule, 'column', col, 'table', tab))::text;
  END;`;
}

/** A function takes a hundred arguments at most. */
const MOST_PAIRS = 45;

function objectOf(pairs: readonly string[]): string {
  const pieces: string[] = [];
  for (let at = 0; at < pairs.length; at += MOST_PAIRS)
    pieces.push(`jsonb_build_object(${pairs.slice(at, at + MOST_PAIRS).join(', ')})`);
  return pieces.length === 0 ? "'{}'::jsonb" : pieces.join(' || ');
}
