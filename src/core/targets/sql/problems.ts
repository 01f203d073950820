import type { Schema } from '../../declare/index.js';
import { type Problem, problems } from '../../messages/index.js';
import { tablesOf } from './layout.js';

/** Tables of lists and records that meet others by name, and columns of theirs that meet those of their key. */
export function meetingTables(schema: Schema): readonly Problem[] {
  const found: Problem[] = [];
  const names = new Map<string, string>();
  for (const model of schema) {
    for (const { name, of, key, fields, parent } of tablesOf(model)) {
      const what = of === '' ? `the table of ${model.ruleset}` : `the table of ${model.ruleset}.${of}`;
      const other = names.get(name.toLowerCase());
      if (other !== undefined && other !== what) found.push(problems.namesMeet(model.place, name, what, other));
      names.set(name.toLowerCase(), what);
      if (parent === null) continue;
      for (const { column, path, place } of fields) {
        if (key.some((one) => one.name.toLowerCase() === column.toLowerCase()))
          found.push(problems.namesMeet(place, column, `"${path}"`, `the key of ${what}`));
      }
    }
  }
  return found;
}
