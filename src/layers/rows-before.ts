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
  const { engine } = connection;
  try {
    for (const { ruleset, row } of before) {
      const model = modelOf(ruleset, schema);
      // A row of the live table serves as well.
      const { key } = model;
      const counted = key !== null && countsKeys(model) ? key : null;
      const isCounted = counted !== null && keys.wasGiven(ruleset, row[counted] ?? null);
      if (filled.has(ruleset) && !isCounted && (await isStored(connection, schema, model, row))) {
        if (counted !== null) keys.note(ruleset, row[counted] ?? null, row[counted]);
        continue;
      }
      const sent =
        counted === null ? row : Object.fromEntries(Object.entries(row).filter(([name]) => name !== counted));
      const rows = await rowsOf(model, keys.toTable(model, sent), schema, engine, 'record');
      const [stored] = await insertRows(connection, rows, [], 'record');
      // The case that stores such a row shows it.
      if (stored?.columns == null)
        return { notApplicable: `the ${ruleset} before it is not stored, though that is reported` };
      if (counted !== null) keys.note(ruleset, row[counted] ?? null, stored?.columns?.[rows.table.key[0]?.name ?? '']);
    }
    return null;
  } catch (error) {
    const refusal = filled.size > 0 && error instanceof RowRefused ? refusalOf(error, new Map()) : null;
    if (refusal?.kind === 'unique') return { notApplicable: 'a row that is stored already has the same values' };
    return { breakdown: `the rows that are there before can't be stored: ${messageOf(error)}` };
  }
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
