import { placeColumn, tableTargets } from '../core/targets/index.js';
import type { Connection } from '../server/connections/index.js';
import { type Inserted, wholeRow } from '../server/insert.js';
import type { RowToWrite } from '../server/rows.js';
import { arrayText } from './array-text.js';
import type { Attempt, Outcome } from './tables.js';

const { spelling } = tableTargets.postgresql;

/** The types of the columns of tables, without a length or a precision: those are the insert's to refuse. */
export type ColumnTypes = ReadonlyMap<string, ReadonlyMap<string, string>>;

/** What the block tells of a case: the columns of the rows that went in, or what the engine said of which row. */
interface Told {
  readonly at: number;
  readonly rows?: readonly (readonly (string | null)[] | null)[];
  readonly failed?: number;
  readonly error?: { readonly [field: string]: string };
}

/** Cases with the same columns in the same tables: one statement that is planned once does for all of them. */
interface Shape {
  readonly rows: readonly RowToWrite[];
  readonly cases: { readonly at: number; readonly values: readonly (string | null)[] }[];
}

/**
 * Tries many cases in one call: an anonymous block with an exception handler a case, which undoes it. Nothing is
 * created; the answers come back in a setting of the transaction. Its variables have names that no column has: the
 * engine would not know which of both is meant. A text with U+0000 can't stand in a statement: it is
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
  echo_rule_answers text[] := '{}';
  echo_rule_owner record;
  echo_rule_stored record;
  echo_rule_told text;
  echo_rule_values text[];
  echo_rule_step integer;
  echo_rule_state text; echo_rule_said text; echo_rule_rule text; echo_rule_column text; echo_rule_table text;
BEGIN
${shapes.map((shape) => loop(shape, types)).join('\n')}
  PERFORM set_config('echo_rule.answers', '[' || array_to_string(echo_rule_answers, ',') || ']', true);
END
$echo_rule$`;
  await connection.run(sql);
  const [first] = await connection.rows("SELECT current_setting('echo_rule.answers') AS answers");
  const told = JSON.parse(String(first?.answers)) as readonly Told[];
  const byCase = new Map(told.map((one) => [one.at, one]));
  return attempts.map(({ row }, at): Outcome | null => {
    const { rows: stored, failed, error } = byCase.get(at) ?? {};
    const rows = flat(row);
    if (error !== undefined) return { error: errorOf(error), row: rows[(failed ?? 1) - 1] ?? row };
    if (stored === undefined) return null;
    return {
      inserted: rows.slice(0, stored.length).map((one, index): Inserted => {
        const values = stored[index];
        const columns = columnNames(one).map((name, place) => [name, values?.[place] ?? null] as const);
        return { row: one, columns: values == null ? null : Object.fromEntries(columns) };
      }),
    };
  });
}

/** The shape in which drivers hand on what the engine says, but for a stack. */
function errorOf(fields: { readonly [field: string]: string }): object {
  return Object.fromEntries(Object.entries(fields).filter(([, text]) => text !== ''));
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

/** The columns that are read back, in their order. */
function columnNames({ table: { key, fields } }: RowToWrite): readonly string[] {
  return [...new Set([...key.map(({ name }) => name), ...fields.map(({ column }) => column)])];
}

/** Tries each case of a shape: its rows go in, and are read as they are then, whatever triggers made of them. */
function loop({ rows, cases }: Shape, types: ColumnTypes): string {
  let count = 0;
  const tries = rows.map((row, index) => {
    const { name, key, parent } = row.table;
    const table = spelling.name(name);
    const owning = parent === null ? [] : key.slice(0, parent.key.length);
    const owner = owning.map((_, at) => `echo_rule_owner.${spelling.name(parent?.key[at]?.name ?? '')}`);
    const columns = ownColumns(row).map((one) => ({
      name: one.name,
      value: `echo_rule_values[${++count + 1}]::${types.get(name)?.get(one.name) ?? 'text'}`,
    }));
    const names = [...owning, ...columns].map((one) => spelling.name(one.name));
    const values = [...owner, ...columns.map(({ value }) => value)];
    const what = names.length === 0 ? 'DEFAULT VALUES' : `(${names.join(', ')}) VALUES (${values.join(', ')})`;
    const insert = `      echo_rule_step := ${index + 1};
      INSERT INTO ${table} ${what}${parent === null ? ` RETURNING * INTO echo_rule_owner` : ''};
      IF NOT FOUND THEN
        echo_rule_told := '[null';
        RAISE EXCEPTION USING ERRCODE = 'ERU00';
      END IF;`;
    const place = columns.find((one) => one.name === placeColumn(row.table));
    const found = [
      ...(parent === null ? key.map((one) => `echo_rule_owner.${spelling.name(one.name)}`) : owner),
      ...(place === undefined ? [] : [place.value]),
    ].map((value, at) => `${spelling.name(key[at]?.name ?? '')} = ${value}`);
    const parts = columnNames(row).map((one) => `echo_rule_stored.${spelling.name(one)}::text`);
    const read = `      SELECT * INTO echo_rule_stored FROM ${table} WHERE ${found.join(' AND ')};
      echo_rule_told := echo_rule_told || '${index === 0 ? '' : ','}' || CASE WHEN FOUND THEN array_to_json(ARRAY[${parts.join(', ')}])::text ELSE 'null' END;`;
    return { insert, read };
  });
  const data = cases.map(({ at, values }) => arrayText([String(at), ...values])).join(',');
  return `  FOREACH echo_rule_values SLICE 1 IN ARRAY ${spelling.text(`{${data}}`)}::text[] LOOP
    BEGIN
      echo_rule_told := '[';
${[...tries.map(({ insert }) => insert), ...tries.map(({ read }) => read)].join('\n')}
      RAISE EXCEPTION USING ERRCODE = 'ERU00';
    EXCEPTION
      WHEN SQLSTATE 'ERU00' THEN
        echo_rule_answers := echo_rule_answers || format('{"at": %s, "rows": %s]}', echo_rule_values[1], echo_rule_told);
      WHEN OTHERS THEN
        GET STACKED DIAGNOSTICS echo_rule_state = RETURNED_SQLSTATE, echo_rule_said = MESSAGE_TEXT, echo_rule_rule = CONSTRAINT_NAME,
          echo_rule_column = COLUMN_NAME, echo_rule_table = TABLE_NAME;
        echo_rule_answers := echo_rule_answers || json_build_object('at', echo_rule_values[1]::integer, 'failed', echo_rule_step, 'error', json_build_object(
          'code', echo_rule_state, 'message', echo_rule_said, 'constraint', echo_rule_rule,
          'column', echo_rule_column, 'table', echo_rule_table))::text;
    END;
  END LOOP;`;
}
