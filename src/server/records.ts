import type { AnyRuleset } from '../core/declare/index.js';
import type { Row } from '../core/model/index.js';
import { tableTargets } from '../core/targets/index.js';
import { orderOf } from './all-columns.js';
import { connectionOf, type Handle } from './connections/index.js';
import { keyIn, type Place, placeIn } from './place.js';
import { readRows, storedRecord } from './read-records.js';
import { type RowToWrite, rowsOf, withoutStoredForms } from './rows.js';
import { updateRows } from './update.js';
import { modelIn, schemaFor } from './violations.js';
import { type WriteOptions, type Written, write } from './write.js';

export type RecordOptions = Omit<WriteOptions, 'key'>;

function placeOf(handle: Handle, ruleset: AnyRuleset, rulesets: RecordOptions['rulesets']): Place {
  const schema = schemaFor(ruleset, rulesets);
  return placeIn(connectionOf(handle), schema, modelIn(schema, ruleset.name));
}

/** A stored record in canonical form with what the store fills; null where there is none of that key. */
export async function findRecord(
  handle: Handle,
  ruleset: AnyRuleset,
  key: string | number,
  { rulesets }: RecordOptions = {},
): Promise<Row | null> {
  const place = placeOf(handle, ruleset, rulesets);
  const { connection, schema, model, whereKey } = place;
  const known = keyIn(place, key);
  if (known === null) return null;
  const [row] = await readRows(connection, model, whereKey(1), [known]);
  return row === undefined ? null : storedRecord(model, schema, connection, row);
}

/** All stored records in the order of their keys, as `findRecord` gives them. */
export async function listRecords(
  handle: Handle,
  ruleset: AnyRuleset,
  { rulesets }: RecordOptions = {},
): Promise<readonly Row[]> {
  const { connection, schema, model, root } = placeOf(handle, ruleset, rulesets);
  const order = orderOf(root, connection);
  const rows = await readRows(connection, model, order, []);
  return rows.map((row) => storedRecord(model, schema, connection, row));
}

/**
 * Puts a checked record in the place of a stored one. What stays as it is is not written: neither columns, nor rows of its
 * lists, which are matched by their key where they have one. A secret that is null stays as it is stored: nobody is shown
 * it, so nobody sends it back.
 *
 * @param key the key of the stored record, as it was before
 * @param value the record as a check gives it
 * @returns the record as it is stored now, or every rule that it broke and nothing is changed; null where there is none
 */
export async function updateRecord(
  handle: Handle,
  ruleset: AnyRuleset,
  key: string | number,
  value: object,
  options: RecordOptions = {},
): Promise<Written<Row> | null> {
  const place = placeOf(handle, ruleset, options.rulesets);
  const { connection, schema, model } = place;
  const record = withoutStoredForms(model, { ...value });
  if (keyIn(place, key) === null) return null;
  const rows = withoutKeptSecrets(await rowsOf(model, record, schema, connection.engine, 'nobody'), model, record);
  const work = async () => {
    const before = await findRecord(handle, ruleset, key, options);
    if (before === null) return null;
    await updateRows(place, key, await rowsOf(model, before, schema, connection.engine, 'nobody'), rows);
    const own = model.key === null ? key : (record[model.key] as string | number | undefined);
    return findRecord(handle, ruleset, own ?? key, options);
  };
  const written = await write(handle, ruleset, record, work, { ...options, key });
  if (!written.ok) return written;
  return written.value === null ? null : { ok: true, value: written.value };
}

/** A record's rows without the stored forms of secrets that are not sent. */
function withoutKeptSecrets(
  rows: RowToWrite,
  { fields }: Place['model'],
  record: { readonly [field: string]: unknown },
) {
  const kept = Object.values(fields).filter(({ name, storedAs }) => storedAs !== null && record[name] == null);
  const columns = new Set(kept.map(({ storedAs }) => fields[storedAs ?? '']?.column));
  return { ...rows, columns: rows.columns.filter(({ name }) => !columns.has(name)) };
}

/**
 * Removes a stored record with all its rows.
 *
 * @returns the record as it was; or who still refers to it, and nothing is changed; null where there is none
 */
export async function deleteRecord(
  handle: Handle,
  ruleset: AnyRuleset,
  key: string | number,
  options: RecordOptions = {},
): Promise<Written<Row> | null> {
  const place = placeOf(handle, ruleset, options.rulesets);
  const { connection, root, whereKey } = place;
  if (keyIn(place, key) === null) return null;
  const remove = async () => {
    const before = await findRecord(handle, ruleset, key, options);
    const sql = `DELETE FROM ${tableTargets[connection.engine].spelling.name(root.name)}${whereKey(1)}`;
    if (before !== null) await connection.rows(sql, [key]);
    return before;
  };
  const written = await write(handle, ruleset, null, remove, options);
  if (!written.ok) return written;
  return written.value === null ? null : { ok: true, value: written.value };
}
