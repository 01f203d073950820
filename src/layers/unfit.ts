import type { Schema } from '../core/declare/index.js';
import { tablesOf } from '../core/targets/index.js';
import type { TableEngine, TableOptions } from './tables.js';

/** Every column that the models name must be there: a table that differs is never taken for the right one. */
export async function unfit(engine: TableEngine, schema: Schema, { rulesets }: TableOptions): Promise<string | null> {
  for (const model of schema) {
    const { ruleset } = model;
    if (rulesets !== undefined && !rulesets.includes(ruleset)) continue;
    for (const { name, of, fields, key } of tablesOf(model)) {
      const columns = await engine.columnsOf(name);
      const whose = of === '' ? ruleset : `${ruleset}.${of}`;
      if (columns.length === 0) return `there is no table "${name}" for ${whose}`;
      const wanted = [...fields, ...(of === '' ? [] : key.map((one) => ({ column: one.name, path: one.name })))];
      const lacking = wanted.find(({ column }) => !columns.includes(column));
      if (lacking !== undefined)
        return `the table "${name}" has no column "${lacking.column}" for ${ruleset}.${lacking.path}`;
      const why = await engine.refuses(name);
      if (why !== null) return why;
    }
  }
  return null;
}
