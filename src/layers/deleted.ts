import type { Schema } from '../core/declare/index.js';
import { instancesOf, valueIn } from '../core/meaning/index.js';
import { type Answer, type Case, type DeletedRow, fieldAt, type Row } from '../core/model/index.js';
import { tableTargets, toColumn, typeField } from '../core/targets/index.js';
import type { Connection } from '../server/connections/index.js';
import { blameOf, namesOf, refusalOf } from '../server/database-errors/index.js';
import { insertRows } from '../server/insert.js';
import { placeIn } from '../server/place.js';
import { readRows, storedRecord } from '../server/read-records.js';
import type { RowToWrite } from '../server/rows.js';
import type { GivenKeys } from './given-keys.js';
import { modelOf } from './layer.js';
import { messageOf } from './message-of.js';
import { heldByServer } from './updated.js';

/**
 * Stores the record of a case, deletes the row that it refers to, and reads what is left of the record.
 *
 * @param row the record's own rows, with the keys that the tables gave
 * @param filled the rulesets whose tables hold rows that no case knows of
 */
export async function deleted(
  connection: Connection,
  schema: Schema,
  one: Case,
  row: RowToWrite,
  keys: GivenKeys,
  filled: ReadonlySet<string>,
): Promise<Answer> {
  const model = modelOf(one.ruleset, schema);
  const { ruleset, key } = one.input as DeletedRow;
  const target = modelOf(ruleset, schema);
  const place = placeIn(connection, schema, model);
  const { spelling, wire } = tableTargets[connection.engine];
  let own: unknown;
  try {
    const [first] = await insertRows(connection, row);
    own = first?.columns?.[place.root.key[0]?.name ?? ''];
  } catch {
    // Why not, the case that inserts such a record shows.
    return { notApplicable: 'the record that refers to it cannot be stored' };
  }
  const there = placeIn(connection, schema, target);
  const named = toColumn(wire, typeField(fieldAt(target, target.key ?? ''), schema), keyInTable());
  try {
    await connection.rows(`DELETE FROM ${spelling.name(there.root.name)}${there.whereKey(1)}`, [named]);
  } catch (error) {
    return refusalOfDeletion(error, model, target, filled);
  }
  const [found] = await readRows(connection, model, place.whereKey(1), [own]);
  if (found === undefined) return { accepted: {} };
  const left = { ...storedRecord(model, schema, connection, found), ...heldByServer(model, one.existing ?? {}) };
  return { accepted: keys.fromTable(model, left) };

  /** The key of the deleted row as its table has it, which may be one that the table gave. */
  function keyInTable(): unknown {
    const existing = one.existing ?? {};
    const given = keys.toTable(model, existing) as Row;
    for (const { predicate } of model.constraints) {
      if (predicate.op !== 'refersTo' || predicate.to !== ruleset) continue;
      const at = instancesOf(existing, predicate.of).find(
        (indices) => valueIn(existing, predicate.of, indices) === key,
      );
      if (at !== undefined) return valueIn(given, predicate.of, at);
    }
    return key;
  }
}

/** In a live table other rows may refer to the same row, and nothing is learned from a refusal that is about them. */
function refusalOfDeletion(
  error: unknown,
  model: Schema[number],
  target: Schema[number],
  filled: ReadonlySet<string>,
): Answer {
  const names = namesOf(model);
  const refusal = refusalOf(error, names);
  if (refusal === null) {
    const message = messageOf(error);
    return /denied/i.test(message)
      ? { notApplicable: `its role may not delete from ${target.table}` }
      : { breakdown: message };
  }
  if (refusal.kind !== 'foreignKey') return { refused: [blameOf(refusal, model, names)] };
  const isOwn = refusal.constraint !== null && names.has(refusal.constraint.toLowerCase());
  if (filled.has(target.ruleset) && !isOwn)
    return { notApplicable: 'other rows that are stored may refer to the deleted one' };
  return { refused: [{ pointer: '', rule: `${target.ruleset}.inUse`, message: refusal.message }] };
}
