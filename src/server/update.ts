import { itemKeyOf, type KnownField } from '../core/kinds/index.js';
import { fieldAt } from '../core/model/index.js';
import { placeColumn, type Table, tablesOf, tableTargets } from '../core/targets/index.js';
import { insertRows, RowRefused } from './insert.js';
import type { Place } from './place.js';
import type { RowToWrite } from './rows.js';

type Column = RowToWrite['columns'][number];
/** The values of the key of the row that others belong to. */
type Owner = readonly unknown[];

/**
 * Puts a record's rows in the place of a stored record's. What is the same is not written: neither columns nor rows; a row
 * of a list with a key stays the same row wherever its entry moves to.
 *
 * @param key the key of the stored record, as it was before
 * @param before the rows of the stored record
 * @param after the rows that it is to have; a column that is not among them stays
 * @throws RowRefused with the engine's error as its cause
 */
export async function updateRows(
  place: Place,
  key: string | number,
  before: RowToWrite,
  after: RowToWrite,
): Promise<void> {
  const name = place.root.key[0]?.name ?? '';
  const own = after.columns.find((column) => column.name === name)?.value ?? key;
  const isSameKey = String(own) === String(key);
  const update = new Update(place, isSameKey);
  const within = tablesOf(place.model).filter(({ parent }) => parent?.of === '');
  // Removed rows are deleted before new ones are inserted: an entry may take the place of an equal one.
  for (const table of within) await update.prepare(table, [key], rowsIn(before, table), rowsIn(after, table));
  const changed = differing(before, after);
  // What is within a record is part of it: its time of change is that of all of it.
  const keepsTime = Object.values(place.model.fields).some(({ generated }) => generated === 'updated');
  const touched = changed.length === 0 && update.isTouched && keepsTime ? after.columns.slice(0, 1) : changed;
  await update.set(after, [key], touched);
  await update.finish([own]);
}

function rowsIn({ belonging }: RowToWrite, { of }: Table): readonly RowToWrite[] {
  return belonging.filter(({ table }) => table.of === of);
}

/** The columns of a row that are not what they were. */
function differing(before: RowToWrite, after: RowToWrite): readonly Column[] {
  const known = new Map(before.columns.map(({ name, value }) => [name, value]));
  return after.columns.filter(({ name, value }) => !isSame(known.get(name), value));
}

function isSame(a: unknown, b: unknown): boolean {
  return (
    a === b || ((a ?? null) === null && (b ?? null) === null) || (a != null && b != null && String(a) === String(b))
  );
}

/** True for rows with the same columns and the same rows within. */
function isSameRow(before: RowToWrite, after: RowToWrite): boolean {
  if (differing(before, after).length > 0 || before.belonging.length !== after.belonging.length) return false;
  return after.belonging.every((row, at) => isSameRow(before.belonging[at] as RowToWrite, row));
}

/** A stored row of a list, and what it becomes: its place counts from 1. */
interface Move {
  at: number;
  readonly to: number;
  readonly row: RowToWrite;
}

class Update {
  readonly #place: Place;
  readonly #isSameKey: boolean;
  /** Rows to insert after all deletions, without the key of the record itself. */
  readonly #added: { readonly row: RowToWrite; readonly owner: Owner }[] = [];
  /** Something within the record has changed. */
  isTouched = false;

  constructor(place: Place, isSameKey: boolean) {
    this.#place = place;
    this.#isSameKey = isSameKey;
  }

  /** Removes, moves and changes the rows of a table that belong to one row. */
  async prepare(
    table: Table,
    owner: Owner,
    before: readonly RowToWrite[],
    after: readonly RowToWrite[],
  ): Promise<void> {
    const pairs = this.#isSameKey ? matched(table, before, after) : [];
    const staying = new Set(pairs.map(({ old }) => old));
    for (const old of before.filter((row) => !staying.has(row))) await this.#remove(old, owner);
    const known = new Set(pairs.map(({ row }) => row));
    for (const row of after.filter((one) => !known.has(one))) this.#add(row, owner);
    await this.#move(table, owner, pairs);
    for (const { old, row } of pairs) {
      if (this.#added.some((one) => one.row === row)) continue;
      const here = [...owner, ...placeOf(row)];
      await this.set(row, here, differing(old, row));
      const within = tablesOf(this.#place.model).filter(({ parent }) => parent?.of === table.of);
      for (const inner of within) await this.prepare(inner, here, rowsIn(old, inner), rowsIn(row, inner));
    }
  }

  /** Inserts what was added, under the key that the record has now. */
  async finish([key]: Owner): Promise<void> {
    for (const { row, owner } of this.#added) await insertRows(this.#place.connection, row, [key, ...owner.slice(1)]);
  }

  /** Changes columns of a row; none where there is nothing to change. */
  async set(row: RowToWrite, key: Owner, columns: readonly Column[]): Promise<void> {
    if (columns.length === 0) return;
    const { spelling, wire } = tableTargets[this.#place.connection.engine];
    const set = columns.map(({ name }, at) => `${spelling.name(name)} = ${wire.place(at + 1)}`).join(', ');
    const { where, values } = this.#at(row.table, key, columns.length);
    const sql = `UPDATE ${spelling.name(row.table.name)} SET ${set}${where}`;
    await this.#run(row, sql, [...columns.map(({ value }) => value), ...values]);
  }

  #add(row: RowToWrite, owner: Owner): void {
    this.isTouched = true;
    this.#added.push({ row, owner });
  }

  async #remove(row: RowToWrite, owner: Owner, at: readonly unknown[] = placeOf(row)): Promise<void> {
    const { spelling } = tableTargets[this.#place.connection.engine];
    const { where, values } = this.#at(row.table, [...owner, ...at], 0);
    await this.#run(row, `DELETE FROM ${spelling.name(row.table.name)}${where}`, values);
  }

  /**
   * Moves the rows of a list to their new places, each once its place is free. Where they go round in a circle, one steps
   * aside; where there is no place for it, it is inserted anew.
   */
  async #move(table: Table, owner: Owner, pairs: readonly Pair[]): Promise<void> {
    const column = placeColumn(table);
    if (column === null) return;
    const taken = new Set(pairs.map(({ old }) => Number(placeOf(old)[0])));
    const all = pairs.map(({ old, row }): Move => ({ at: Number(placeOf(old)[0]), to: Number(placeOf(row)[0]), row }));
    let open = all.filter(({ at, to }) => at !== to);
    const go = async (move: Move, to: number) => {
      await this.set(move.row, [...owner, move.at], [{ name: column, value: to }]);
      taken.delete(move.at);
      taken.add(to);
      move.at = to;
    };
    while (open.length > 0) {
      const free = open.find(({ to }) => !taken.has(to));
      const [first] = open;
      if (free !== undefined) await go(free, free.to);
      else if (first !== undefined) {
        const aside = freePlace(table, taken);
        if (aside !== null) await go(first, aside);
        else {
          await this.#remove(first.row, owner, [first.at]);
          taken.delete(first.at);
          this.#add(first.row, owner);
          first.at = first.to;
        }
      }
      open = open.filter(({ at, to }) => at !== to);
    }
  }

  /** The condition for one row by its key, behind so many other values. */
  #at(table: Table, key: Owner, before: number): { readonly where: string; readonly values: Owner } {
    const { spelling, wire } = tableTargets[this.#place.connection.engine];
    const parts = table.key.map(({ name }, at) => `${spelling.name(name)} = ${wire.place(before + at + 1)}`);
    return { where: ` WHERE ${parts.join(' AND ')}`, values: key };
  }

  async #run(row: RowToWrite, sql: string, values: readonly unknown[]): Promise<void> {
    if (row.table.parent !== null) this.isTouched = true;
    await this.#place.connection.rows(sql, values).catch((error: unknown) => {
      throw new RowRefused(row, error);
    });
  }
}

/** A stored row, and the row that it becomes. */
interface Pair {
  readonly old: RowToWrite;
  readonly row: RowToWrite;
}

/** Which stored row each new one is: of a list with a key the one of the same key, else the one that is the same there. */
function matched(table: Table, before: readonly RowToWrite[], after: readonly RowToWrite[]): readonly Pair[] {
  const list = fieldAt(table.model, table.of);
  if (list.item === null) return pairsBy(before, after, () => '');
  const key = itemKeyOf(list);
  const field = key === null ? undefined : list.item.fields?.[key];
  if (field !== undefined) {
    const pairs = pairsBy(before, after, (row) => String(valueIn(row, field) ?? ''));
    // Two rows that change places in what must differ would meet on the way.
    const apart = typeof list.facets.distinct === 'string' ? list.item.fields?.[list.facets.distinct] : undefined;
    return pairs.filter(({ old, row }) => apart === undefined || isSame(valueIn(old, apart), valueIn(row, apart)));
  }
  return pairsBy(before, after, (row) => String(placeOf(row)[0])).filter(({ old, row }) => isSameRow(old, row));
}

function pairsBy(
  before: readonly RowToWrite[],
  after: readonly RowToWrite[],
  keyOf: (row: RowToWrite) => string,
): readonly Pair[] {
  const known = new Map(before.map((old) => [keyOf(old), old]));
  return after.flatMap((row): readonly Pair[] => {
    const old = known.get(keyOf(row));
    known.delete(keyOf(row));
    return old === undefined ? [] : [{ old, row }];
  });
}

function valueIn({ columns }: RowToWrite, { column }: KnownField): unknown {
  return columns.find(({ name }) => name === column)?.value;
}

/** The place of a row in its list, from 1; nothing for one that is in none. */
function placeOf({ table, indices }: RowToWrite): readonly number[] {
  return placeColumn(table) === null ? [] : [(indices.get(table.of) ?? 0) + 1];
}

/** A place of a list that no row has, as far as there may be one. */
function freePlace({ model, of }: Table, taken: ReadonlySet<number>): number | null {
  const most = Number(fieldAt(model, of).facets.maxItems ?? taken.size + 1);
  for (let at = 1; at <= most; at += 1) if (!taken.has(at)) return at;
  return null;
}
