import type { AnyRuleset } from '../core/declare/index.js';
import { targetOf } from '../core/kinds/index.js';
import { allFields } from '../core/model/index.js';
import { fromColumn, type Options, tablesOf, tableTargets, typeField } from '../core/targets/index.js';
import { connectionOf, type Handle } from './connections/index.js';
import { modelIn, schemaFor } from './violations.js';

/**
 * What the references of a ruleset can lead to, for the lists of its form: the keys of the stored records, and the texts
 * that name them to a person, in the order of these texts.
 *
 * @param rulesets the rulesets of the same database; references to others are left out
 */
export async function referenceOptions(
  handle: Handle,
  ruleset: AnyRuleset,
  rulesets: readonly AnyRuleset[],
): Promise<{ readonly [ruleset: string]: Options }> {
  const connection = connectionOf(handle);
  const schema = schemaFor(ruleset, rulesets);
  const { spelling, wire } = tableTargets[connection.engine];
  const names = new Set(allFields(modelIn(schema, ruleset.name)).flatMap((field) => targetOf(field)?.to ?? []));
  const options: { [ruleset: string]: Options } = {};
  for (const model of schema.filter((one) => names.has(one.ruleset))) {
    const [root] = tablesOf(model);
    const key = model.key === null ? undefined : model.fields[model.key];
    if (root === undefined || key === undefined) continue;
    const called = model.fields[model.called ?? ''] ?? key;
    const columns = [key, called].map(({ column }) => spelling.name(column));
    const respelled = wire.respelled([...new Set([key, called])].map((field) => typeField(field, schema)));
    const selected = `${[...new Set(columns)].join(', ')}${respelled}`;
    const table = spelling.name(root.name);
    const sql = `SELECT ${selected} FROM ${table} ORDER BY ${columns
      .map((column) => `${table}.${column}`)
      .reverse()
      .join(', ')}`;
    options[model.ruleset] = (await connection.rows(sql)).map((row) => {
      const [value, text] = [key, called].map((field) =>
        fromColumn(wire, typeField(field, schema), row[field.column] ?? null),
      );
      return [value as string | number, String(text ?? value)] as const;
    });
  }
  return options;
}
