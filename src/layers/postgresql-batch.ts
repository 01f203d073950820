import { placeColumn, tableTargets } from '../core/targets/index.js';
import type { Columns, Connection } from '../server/connections/index.js';
import { type Inserted, wholeRow } from '../server/insert.js';
import type { RowToWrite } from '../server/rows.js';
import type { Attempt, Outcome } from './tables.js';

const { spelling } = tableTargets.postgresql;

/** The types of the columns of tables, without a length or a precision: those are the insert's to refuse. */
export type ColumnTypes = ReadonlyMap<string, ReadonlyMap<string, string>>;

/** What the block tells of a case: the rows that went in, or what the engine said of which row. */
type Told =
  | { readonly at: number; readonly rows: readonly (Columns | null)[] }
  | { readonly at: number; readonly failed: number; readonly error: { readonly [field: string]: string } };

/** Cases with the same columns in the same tables: one statement that is planned once does for all of them. */
interface Shape {
  readonly rows: readonly RowToWrite[];
  readonly cases: { readonly at: number; readonly values: readonly (string | null)[] }[];
}

/**
 * Tries many cases in one call: an anonymous block with an exception handler a case, which undoes it. Nothing is
 * created; the answers come back in a setting of the transaction. A text with U+0000 can't stand in a statement: it is
 * tried by itself.
 */
export async function postgresqlBatch(
  connection: Connection,
  attempts: readonly Attempt[],
  types: ColumnTypes,
): Promise<readonly (Outcome | null)[]> {
  const shapes = shapesOf(attempts);
  if (shapes.length === 0) return attempts.map(() => null);
  const sql = `DO $echo_rule$
DECLARE
  answers text[] := '{}';
  owner record;
  stored record;
  told jsonb;
  item jsonb;
  v text[];
  step integer;
  state text; said text; rule text; col text; tab text;
BEGIN
${shapes.map((shape) => loop(shape, types)).join('\n')}
  PERFORM set_config('echo_rule.answers', '[' || array_to_string(answers, ',') || ']', true);
END
$echo_rule$`;
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

/** A lone surrogate becomes U+FFFD, as drivers send it. */
const textOf = (value: unknown) =>
  value === null || value === undefined ? null : String(value).replace(/\p{Surrogate}/gu, '\ufffd');

function shapesOf(attempts: readonly Attempt[]): readonly Shape[] {
  const shapes = new Map<string, Shape>();
  for (const [at, { row }] of attempts.entries()) {
    const rows = flat(row);
    const values = rows.flatMap((one) => ownColumns(one).map(({ value }) => textOf(value)));
    const isDeep = row.belonging.some(({ belonging }) => belonging.length > 0);
    if (isDeep || values.some((value) => value?.includes('\0'))) continue;
    const key = JSON.stringify(rows.map((one) => [one.table.name, ownColumns(one).map(({ name }) => name)]));
    const shape = shapes.get(key) ?? { rows, cases: [] };
    shape.cases.push({ at, values });
    shapes.set(key, shape);
  }
  return [...shapes.values()];
}

/** The columns whose values are given: an item's place among them, but not whose it is. */
function ownColumns(row: RowToWrite): RowToWrite['columns'] {
  return row.table.parent === null ? row.columns : wholeRow(row, []);
}

/** Tries each case of a shape: its rows go in, and are read as they are then, whatever triggers made of them. */
function loop({ rows, cases }: Shape, types: ColumnTypes): string {
  let given = 0;
  const tries = rows.map((row, index) => {
    const { name, key, fields, parent } = row.table;
    const table = spelling.name(name);
    const owning = parent === null ? [] : key.slice(0, parent.key.length);
    const owner = owning.map((_, at) => `owner.${spelling.name(parent?.key[at]?.name ?? '')}`);
    const columns = ownColumns(row).map((one) => ({
      name: one.name,
      value: `v[${++given}]::${types.get(name)?.get(one.name) ?? 'text'}`,
    }));
    const names = [...owning, ...columns].map((one) => spelling.name(one.name));
    const values = [...owner, ...columns.map(({ value }) => value)];
    const what = names.length === 0 ? 'DEFAULT VALUES' : `(${names.join(', ')}) VALUES (${values.join(', ')})`;
    const insert = `      step := ${index + 1};
      INSERT INTO ${table} ${what}${parent === null ? ' RETURNING * INTO owner' : ''};
      IF NOT FOUND THEN
        told := '[null]';
        RAISE EXCEPTION USING ERRCODE = 'ERU00';
      END IF;`;
    const place = columns.find((one) => one.name === placeColumn(row.table));
    const found = [
      ...(parent === null ? key.map((one) => `owner.${spelling.name(one.name)}`) : owner),
      ...(place === undefined ? [] : [place.value]),
    ].map((value, at) => `${spelling.name(key[at]?.name ?? '')} = ${value}`);
    const all = new Set([...key.map((one) => one.name), ...fields.map(({ column }) => column)]);
    const parts = [...all].map((one) => `${spelling.text(one)}, stored.${spelling.name(one)}::text`);
    const read = `      SELECT * INTO stored FROM ${table} WHERE ${found.join(' AND ')};
      told := told || CASE WHEN FOUND THEN jsonb_build_array(${objectOf(parts)}) ELSE '[null]'::jsonb END;`;
    return { insert, read };
  });
  const data = spelling.text(JSON.stringify(cases));
  return `  FOR item IN SELECT * FROM jsonb_array_elements(${data}::jsonb) LOOP
    v := ARRAY(SELECT jsonb_array_elements_text(item->'values'));
    BEGIN
      told := '[]';
${[...tries.map(({ insert }) => insert), ...tries.map(({ read }) => read)].join('\n')}
      RAISE EXCEPTION USING ERRCODE = 'ERU00';
    EXCEPTION
      WHEN SQLSTATE 'ERU00' THEN answers := answers || jsonb_build_object('at', item->'at', 'rows', told)::text;
      WHEN OTHERS THEN
        GET STACKED DIAGNOSTICS state = RETURNED_SQLSTATE, said = MESSAGE_TEXT, rule = CONSTRAINT_NAME, col = COLUMN_NAME, tab = TABLE_NAME;
        answers := answers || jsonb_build_object('at', item->'at', 'failed', step, 'error', jsonb_build_object(
          'code', state, 'message', said, 'constraint', rule, 'column', col, 'table', tab))::text;
    END;
  END LOOP;`;
}

/** A function takes a hundred arguments at most. */
const MOST_PAIRS = 45;

function objectOf(pairs: readonly string[]): string {
  const pieces: string[] = [];
  for (let at = 0; at < pairs.length; at += MOST_PAIRS)
    pieces.push(`jsonb_build_object(${pairs.slice(at, at + MOST_PAIRS).join(', ')})`);
  return pieces.length === 0 ? "'{}'::jsonb" : pieces.join(' || ');
}
