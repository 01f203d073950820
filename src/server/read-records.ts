import type { Schema } from '../core/declare/index.js';
import { type Indices, noIndices, type Row } from '../core/model/index.js';
import { fromColumn, placeColumn, type Table, tablesOf, tableTargets, typeField } from '../core/targets/index.js';
import { allColumns, orderOf } from './all-columns.js';
import type { Columns, Connection } from './connections/index.js';
import { instanceOf } from './insert.js';
import { recordFrom } from './rows.js';

type Model = Schema[number];

/** A row of a table with those that belong to it. */
export interface StoredRow {
  readonly columns: Columns;
  /** By the path of the list or record that has the table, in the order of their places. */
  readonly belonging: ReadonlyMap<string, readonly StoredRow[]>;
}

/** How many records' lists are asked for at once. */
const AT_ONCE = 400;

/**
 * Rows of a ruleset's own table with all that belongs to them.
 *
 * @param where what stands behind `SELECT * FROM <table>`
 */
export async function readRows(
  connection: Connection,
  model: Model,
  where: string,
  values: readonly unknown[],
): Promise<readonly StoredRow[]> {
  const tables = tablesOf(model);
  const [root, ...within] = tables;
  if (root === undefined) throw new Error(`no table for ${model.ruleset}`);
  const { spelling } = tableTargets[connection.engine];
  const roots = await connection.rows(
    `SELECT ${allColumns(root, connection)} FROM ${spelling.name(root.name)}${where}`,
    values,
  );
  const keys = roots.map((row) => row[root.key[0]?.name ?? ''] ?? null);
  const below = new Map<string, ReadonlyMap<string, readonly Columns[]>>();
  for (const table of within) {
    const owned = new Map<string, Columns[]>();
    for (const row of await belongingTo(connection, table, keys)) {
      const owner = keyOf(table.parent ?? root, table, row);
      const before = owned.get(owner);
      if (before === undefined) owned.set(owner, [row]);
      else before.push(row);
    }
    below.set(table.of, owned);
  }
  const stored = (table: Table, columns: Columns): StoredRow => {
    const inner = tables.filter(({ parent }) => parent?.of === table.of);
    const own = keyOf(table, table, columns);
    const belonging = inner.map(
      (one) => [one.of, (below.get(one.of)?.get(own) ?? []).map((row) => stored(one, row))] as const,
    );
    return { columns, belonging: new Map(belonging) };
  };
  return roots.map((columns) => stored(root, columns));
}

/** The key of a row of `of`, as the columns of `within` (itself, or one that belongs to it) hold it. */
function keyOf(of: Table, within: Table, columns: Columns): string {
  return JSON.stringify(of.key.map((_, at) => String(columns[within.key[at]?.name ?? ''])));
}

/** The rows of a table within, of all records with these keys, in the order of their lists. */
async function belongingTo(
  connection: Connection,
  table: Table,
  keys: readonly unknown[],
): Promise<readonly Columns[]> {
  const { spelling, wire } = tableTargets[connection.engine];
  const owner = spelling.name(table.key[0]?.name ?? '');
  const found: Columns[] = [];
  for (let at = 0; at < keys.length; at += AT_ONCE) {
    const some = keys.slice(at, at + AT_ONCE);
    const places = some.map((_, index) => wire.place(index + 1)).join(', ');
    const from = `SELECT ${allColumns(table, connection)} FROM ${spelling.name(table.name)}`;
    const sql = `${from} WHERE ${owner} IN (${places})${orderOf(table, connection)}`;
    found.push(...(await connection.rows(sql, some)));
  }
  return found;
}

/** The record that rows hold, in canonical form, with what the store fills. */
export function storedRecord(model: Model, schema: Schema, connection: Connection, row: StoredRow): Row {
  const { engine } = connection;
  const { wire } = tableTargets[engine];
  const found = new Map<string, Columns>();
  const lengths: { [name: string]: unknown } = {};
  const visit = ({ columns, belonging }: StoredRow, of: string, indices: Indices) => {
    found.set(instanceOf(of, indices), columns);
    for (const [inner, rows] of belonging) {
      const isList = tablesOf(model).some((table) => table.of === inner && placeColumn(table) !== null);
      if (isList)
        setAt(
          lengths,
          inner,
          indices,
          rows.map(() => ({})),
        );
      for (const [at, one] of rows.entries()) visit(one, inner, isList ? new Map([...indices, [inner, at]]) : indices);
    }
  };
  visit(row, '', noIndices());
  const record = recordFrom(
    model,
    lengths,
    schema,
    engine,
    (of, indices) => found.get(instanceOf(of, indices)) ?? null,
  );
  return { ...record, ...filledBy(model, schema, wire, row.columns) };
}

/** What the store has filled: keys that count, moments, what is worked out; the number of a row without a key of its own. */
export function filledBy(
  model: Model,
  schema: Schema,
  wire: (typeof tableTargets)[Connection['engine']]['wire'],
  columns: Columns | null,
): Row {
  const filled = Object.values(model.fields).flatMap((field) => {
    if (field.generated === null) return [];
    return [[field.name, fromColumn(wire, typeField(field, schema), columns?.[field.column] ?? null)] as const];
  });
  return { ...countedBy(model, columns), ...Object.fromEntries(filled) };
}

/** The number that a table without a key of its own has given the row. */
function countedBy(model: Model, columns: Columns | null): Row {
  const [key] = tablesOf(model)[0]?.key ?? [];
  if (key?.holds !== 'count' || Object.hasOwn(model.fields, key.name)) return {};
  return { [key.name]: Number(columns?.[key.name] ?? 0) };
}

/** Puts a list at its path: records on the way are made, items of lists on the way are there. */
function setAt(whole: { [name: string]: unknown }, path: string, indices: Indices, list: readonly object[]): void {
  let [at, walked]: [{ [step: string]: unknown }, string] = [whole, ''];
  const steps = path.split('.').flatMap((step) => [
    step.replaceAll('[]', ''),
    ...step
      .split('[]')
      .slice(1)
      .map(() => '[]'),
  ]);
  for (const [index, step] of steps.entries()) {
    const key = step === '[]' ? String(indices.get(walked) ?? 0) : step;
    walked = step === '[]' ? `${walked}[]` : walked === '' ? step : `${walked}.${step}`;
    if (index === steps.length - 1) at[key] = list;
    else {
      at[key] ??= {};
      at = at[key] as { [step: string]: unknown };
    }
  }
}
