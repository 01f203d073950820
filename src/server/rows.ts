import type { Schema } from '../core/declare/index.js';
import { isTable } from '../core/declare/index.js';
import type { KnownField } from '../core/kinds/index.js';
import { decide, judgingFor, storedRow } from '../core/meaning/index.js';
import {
  type Indices,
  isSent,
  noIndices,
  type Path,
  pointerToPath,
  type Row,
  secretIn,
  type Value,
} from '../core/model/index.js';
import { mentionsOf } from '../core/operators/index.js';
import {
  type EngineName,
  fromColumn,
  type Table,
  tablesOf,
  tableTargets,
  toColumn,
  typeField,
} from '../core/targets/index.js';

type Model = Schema[number];
type Raw = { readonly [name: string]: unknown };

/** One row of one table, as a driver binds it, and the rows of the tables that belong to it. */
export interface RowToWrite {
  readonly table: Table;
  /** But for what tells whose it is: that comes from the row that it belongs to. */
  readonly columns: readonly { readonly name: string; readonly value: unknown }[];
  /** Which item of each list on the way it is. */
  readonly indices: Indices;
  readonly belonging: readonly RowToWrite[];
}

/** A record has something where its tables expect another kind of thing: a value, a list or a record. No row says that. */
export class NoRows extends Error {
  constructor(path: Path) {
    super(`what ${path} holds is no value of a column, and no rows of a table`);
    this.name = 'NoRows';
  }
}

/**
 * A record as the rows of its tables. What a server works out is worked out; a key that is missing leaves its column to
 * the default.
 *
 * @param fills who fills what nobody sends: the store; the record itself, as for one that was stored elsewhere; or nobody,
 *   as for one that is changed, where a missing key stays what it is
 * @throws NoRows where something else stands in the place of a list or record
 */
export async function rowsOf(
  model: Model,
  record: Raw,
  schema: Schema,
  engine: EngineName,
  fills: 'store' | 'record' | 'nobody' = 'store',
): Promise<RowToWrite> {
  const made = await madeOf(model, record);
  const { wire } = tableTargets[engine];
  const tables = new Map(tablesOf(model).map((table) => [table.of, table]));
  const tableOf = (of: Path): Table => {
    const table = tables.get(of);
    if (table === undefined) throw new Error(`no table for ${model.ruleset}.${of}`);
    return table;
  };
  const bind = (field: KnownField, value: unknown) => {
    if (field.item === null && typeof value === 'object' && value !== null) throw new NoRows(field.path);
    const bound = toColumn(wire, typeField(field, schema), value);
    if (bound === undefined) throw new NoRows(field.path);
    return { name: field.column, value: bound };
  };

  /** A record says all of its columns: what it leaves out is filled by its default, unless there is no record. */
  const isWritten = (field: KnownField, values: Raw, within: unknown): boolean => {
    if (!isSent(field) || isTable(field)) return false;
    return Object.hasOwn(values, field.name) || (within !== undefined && (fills !== 'nobody' || within === null));
  };

  const columnsOf = (field: KnownField, values: Raw, within: unknown): RowToWrite['columns'] => {
    const isThere = Object.hasOwn(values, field.name);
    if (Object.hasOwn(made, field.path)) return [bind(field, made[field.path])];
    const isGiven = fills === 'record' && field.generated !== null;
    if ((isGiven || secretIn(field.path, model.fields) !== undefined) && isThere)
      return [bind(field, values[field.name])];
    if (!isWritten(field, values, within)) return [];
    const value = isThere ? values[field.name] : within === null ? null : field.default;
    if (field.fields === null) return [bind(field, field.item === null ? value : (value ?? []))];
    const inner = field.optional && isEmpty(value) ? null : (value ?? null);
    return columnsAmong(field.fields, asRecord(value, field.path), inner);
  };

  const columnsAmong = (fields: Model['fields'], values: Raw, within: unknown = undefined): RowToWrite['columns'] =>
    stored(fields).flatMap((field) => columnsOf(field, values, within));

  const belonging = (fields: Model['fields'], values: Raw, indices: Indices): readonly RowToWrite[] =>
    stored(fields).flatMap((field): readonly RowToWrite[] => {
      const value = ownValue(values, field.name);
      if (!isTable(field)) {
        return field.fields === null ? [] : belonging(field.fields, asRecord(value, field.path), indices);
      }
      if (value === null || value === undefined) return [];
      if (field.item === null) {
        // An optional record with nothing in it is absent.
        if (field.optional && isEmpty(value)) return [];
        return [row(field.path, field.fields ?? {}, asRecord(value, field.path), indices)];
      }
      return asList(value, field.path).map((item, at) => itemRow(field, item, new Map([...indices, [field.path, at]])));
    });

  const itemRow = ({ path, item }: KnownField, value: unknown, indices: Indices): RowToWrite => {
    if (item?.fields != null) return row(path, item.fields, asRecord(value, `${path}[]`), indices);
    return row(path, item === null ? {} : { [item.name]: item }, { '': value }, indices);
  };

  const row = (of: Path, fields: Model['fields'], values: Raw, indices: Indices): RowToWrite => ({
    table: tableOf(of),
    columns: columnsAmong(fields, values, of === '' ? undefined : values),
    indices,
    belonging: belonging(fields, values, indices),
  });
  return row('', model.fields, record, noIndices());
}

function stored(fields: Model['fields']): readonly KnownField[] {
  return Object.values(fields).filter(({ enforcedIn }) => enforcedIn.includes('database'));
}

function asRecord(value: unknown, path: Path): Raw {
  if (value === null || value === undefined) return {};
  if (typeof value !== 'object' || Array.isArray(value)) throw new NoRows(path);
  return value as Raw;
}

function asList(value: unknown, path: Path): readonly unknown[] {
  if (!Array.isArray(value)) throw new NoRows(path);
  return value;
}

/**
 * What the server makes of a record: derived fields, and secrets as they are stored, unless the record has the stored form
 * itself.
 *
 * @throws NoRows where a value that something is worked out from is none of its kind
 */
export async function madeOf(model: Model, record: Raw): Promise<Row> {
  const fields = Object.values(model.fields);
  const made = fields.filter(
    ({ name, derivation }) =>
      derivation !== null || (!Object.hasOwn(record, name) && fields.some(({ storedAs }) => storedAs === name)),
  );
  if (made.length === 0) return {};
  // What only a page has, no server works anything out from.
  const known = Object.fromEntries(
    fields
      .filter(({ name, enforcedIn }) => enforcedIn.join() !== 'client' && Object.hasOwn(record, name))
      .map(({ name }) => [name, record[name]]),
  );
  // A row that breaks its own rules may have nothing that can be made.
  const all = await storedRow(model, known as Row).catch((): Row => ({}));
  // From what is not in the grammar of its kind nobody works anything out.
  const verdict = decide(model, known, 'row');
  const unread = new Set(
    'refused' in verdict
      ? verdict.refused.filter(({ rule }) => rule.endsWith('.type')).map(({ pointer }) => pointer)
      : [],
  );
  for (const { derivation } of made) {
    const source =
      derivation === null ? undefined : mentionsOf(derivation).find((path) => unread.has(pointerToPath(path)));
    if (source !== undefined) throw new NoRows(source);
  }
  // What comes out with more digits than its field has is no value of its column.
  const judging = judgingFor(model, known as Row);
  const lost = made.find(
    ({ name, derivation }) => derivation !== null && (all[name] ?? null) === null && judging.value(name) !== null,
  );
  if (lost !== undefined) throw new NoRows(lost.path);
  return Object.fromEntries(made.map(({ name }) => [name, all[name] ?? null]));
}

/** The row of a table, at an item of each list on the way, as the engine gave it back; null where there is none. */
export type Found = (of: Path, indices: Indices) => { readonly [column: string]: unknown } | null;

/**
 * The record that rows hold, of the fields that somebody sends; those that have no column are as they were sent.
 */
export function recordFrom(model: Model, sent: Raw, schema: Schema, engine: EngineName, found: Found): Row {
  const { wire } = tableTargets[engine];
  const read = (field: KnownField, columns: ReturnType<Found>): Value => {
    const value = columns?.[field.column] ?? null;
    return fromColumn(wire, typeField(field, schema), value as Parameters<typeof wire.read>[1]);
  };
  const fieldsFrom = (fields: Model['fields'], raw: unknown, of: Path, indices: Indices): Row => {
    const own = Object.values(fields).filter((field) => isSent(field) && field.enforcedIn.includes('server'));
    const values = typeof raw === 'object' && raw !== null ? (raw as Raw) : {};
    return Object.fromEntries(
      own.map((field) => [field.name, valueFrom(field, ownValue(values, field.name), of, indices)]),
    );
  };
  const valueFrom = (field: KnownField, raw: unknown, of: Path, indices: Indices): Value => {
    const home = isTable(field) ? field.path : of;
    if (field.fields !== null) {
      if (isTable(field) && found(home, indices) === null) return field.optional ? null : {};
      const record = fieldsFrom(field.fields, raw, home, indices);
      return field.optional && isEmpty(record) ? null : record;
    }
    if (!field.enforcedIn.includes('database')) return (raw ?? null) as Value;
    return isTable(field) ? itemsFrom(field, raw, indices) : read(field, found(home, indices));
  };
  const itemsFrom = ({ path, item }: KnownField, raw: unknown, indices: Indices): Value => {
    const sentItems = Array.isArray(raw) ? raw : [];
    return sentItems.flatMap((one, at): readonly Value[] => {
      const here = new Map([...indices, [path, at]]);
      const columns = found(path, here);
      if (columns === null || item === null) return [];
      if (item.fields !== null) return [fieldsFrom(item.fields, one, path, here)];
      return [item.item === null || !isTable(item) ? read(item, columns) : itemsFrom(item, one, here)];
    });
  };
  return fieldsFrom(model.fields, sent, '', noIndices());
}

/** Fields may be called `constructor` or `toString`: what a record inherits is none of its values. */
function ownValue(values: Raw, name: string): unknown {
  return Object.hasOwn(values, name) ? values[name] : null;
}

/** Nothing, or a list or record with nothing in it. */
function isEmpty(value: unknown): boolean {
  if (value === null || value === undefined) return true;
  return typeof value === 'object' && Object.values(value).every(isEmpty);
}

/** A record without the stored forms of secrets, which the server alone makes: whatever a caller has put there is left out. */
export function withoutStoredForms({ fields }: Model, record: Raw): Raw {
  return Object.fromEntries(Object.entries(record).filter(([name]) => secretIn(name, fields) === undefined));
}
