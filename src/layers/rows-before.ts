import type { Schema } from '../core/declare/index.js';
import { type Answer, type Case, fieldAt, type Row } from '../core/model/index.js';
import { tableTargets, toColumn, typeField } from '../core/targets/index.js';
import type { Connection } from '../server/connections/index.js';
import { refusalOf } from '../server/database-errors/index.js';
import { insertRows, RowRefused } from '../server/insert.js';
import { placeIn } from '../server/place.js';
import { rowsOf } from '../server/rows.js';
import { countsKeys, type GivenKeys } from './given-keys.js';
import { modelOf } from './layer.js';
import { messageOf } from './message-of.js';

/**
 * Stores the rows that are there before a case; null where they are, or what the case comes to where they can't be.
 *
 * @param filled the rulesets whose tables hold rows that no case knows of: one of the same key serves as well
 */
export async function storeBefore(
  connection: Connection,
  schema: Schema,
  before: Case['before'],
  keys: GivenKeys,
  filled: ReadonlySet<string>,
): Promise<Answer | null> {
  try {
    for (const one of before) {
      const why = await storeOne(connection, schema, one, keys, filled);
      if (why !== null) return { notApplicable: why };
    }
    return null;
  } catch (error) {
    const refusal = filled.size > 0 && error instanceof RowRefused ? refusalOf(error, new Map()) : null;
    if (refusal?.kind === 'unique') return { notApplicable: 'a row that is stored already has the same values' };
    return { breakdown: `the rows that are there before can't be stored: ${messageOf(error)}` };
  }
}

/** Stores one of them; null, or why the case does not apply. */
async function storeOne(
  connection: Connection,
  schema: Schema,
  { ruleset, row }: Case['before'][number],
  keys: GivenKeys,
  filled: ReadonlySet<string>,
): Promise<string | null> {
  const model = modelOf(ruleset, schema);
  const counted = model.key !== null && countsKeys(model) ? model.key : null;
  const key = counted === null ? null : (row[counted] ?? null);
  // A row of the live table serves as well.
  const isCounted = counted !== null && keys.wasGiven(ruleset, key);
  if (filled.has(ruleset) && !isCounted && (await isStored(connection, schema, model, row))) {
    if (counted !== null) keys.note(ruleset, key, row[counted]);
    return null;
  }
  const sent = counted === null ? row : Object.fromEntries(Object.entries(row).filter(([name]) => name !== counted));
  const rows = await rowsOf(model, keys.toTable(model, sent), schema, connection.engine, 'record');
  const [stored] = await insertRows(connection, rows, [], 'record');
  // The case that stores such a row shows it.
  if (stored?.columns == null) return `the ${ruleset} before it is not stored, though that is reported`;
  if (counted !== null) keys.note(ruleset, key, stored.columns[rows.table.key[0]?.name ?? '']);
  return null;
}

/** True where the table has a row of the same key. */
async function isStored(connection: Connection, schema: Schema, model: Schema[number], row: Row): Promise<boolean> {
  const key = model.key === null ? null : (row[model.key] ?? null);
  if (key === null) return false;
  const { whereKey, root } = placeIn(connection, schema, model);
  const { spelling, wire } = tableTargets[connection.engine];
  const field = typeField(fieldAt(model, model.key ?? ''), schema);
  const found = await connection.rows(`SELECT 1 AS found FROM ${spelling.name(root.name)}${whereKey(1)}`, [
    toColumn(wire, field, key),
  ]);
  return found.length > 0;
}
