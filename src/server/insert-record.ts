import type { AnyRuleset, Schema } from '../core/declare/index.js';
import type { Row } from '../core/model/index.js';
import { tableTargets } from '../core/targets/index.js';
import { connectionOf, type Handle } from './connections/index.js';
import { finding, insertRows } from './insert.js';
import { filledBy } from './read-records.js';
import { recordFrom, rowsOf, withoutStoredForms } from './rows.js';
import { modelIn, schemaFor } from './violations.js';
import { type WriteOptions, type Written, write } from './write.js';

/**
 * Inserts a checked record with all its rows: those of its lists and of records that have tables of their own.
 *
 * @param value the record as a check gives it
 * @returns the record as it is stored, with what the database filled and without any secret; or every rule that it broke, and nothing is there
 */
export async function insertRecord(
  handle: Handle,
  ruleset: AnyRuleset,
  value: object,
  options: WriteOptions = {},
): Promise<Written<Row>> {
  const connection = connectionOf(handle);
  const schema = schemaFor(ruleset, options.rulesets);
  const model = modelIn(schema, ruleset.name);
  const record = withoutStoredForms(model, { ...value });
  const rows = await rowsOf(model, record, schema, connection.engine);
  const insert = async (): Promise<Row> => {
    const found = finding(await insertRows(connection, rows));
    const { wire } = tableTargets[connection.engine];
    const filled = filledBy(model, schema, wire, found(''));
    return withoutSecrets(model, { ...recordFrom(model, record, schema, connection.engine, found), ...filled });
  };
  return write(handle, ruleset, record, insert, options);
}

/** Nobody is given back what was typed in secret. */
function withoutSecrets({ fields }: Schema[number], record: Row): Row {
  const entries = Object.entries(record).map(([name, value]) => [
    name,
    fields[name]?.concealed === true ? null : value,
  ]);
  return Object.fromEntries(entries);
}
