import { existsSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import type { Schema } from '../core/declare/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import type { Case } from '../core/model/index.js';
import type { Surroundings } from './layer.js';

/** Without `sql`, the tables that were compiled. */
export interface TableOptions {
  /** A file that creates the tables, in place of the compiled one. */
  readonly sql?: string;
  /** The rulesets to probe, where the file has not a table for each; the tables that they refer to must be there. */
  readonly rulesets?: readonly string[];
}

/** The text that creates the tables: the compiled file, or the one that the options name. */
export function tablesSql({ sql }: TableOptions, target: string, { folder, output }: Surroundings): string {
  const file = sql === undefined ? resolve(output, `${target}/tables.sql`) : resolve(folder, sql);
  if (existsSync(file)) return readFileSync(file, 'utf8');
  throw new ProblemError([
    sql === undefined ? problems.notCompiled(null, file) : problems.fileMissing(null, 'The layer', file),
  ]);
}

/** Cases with the same rows before them, together: those rows are stored once for all of them. */
export function byBefore(cases: readonly Case[]): readonly (readonly Case[])[] {
  const groups = new Map<string, Case[]>();
  for (const one of cases) {
    const key = JSON.stringify(one.before);
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return [...groups.values()];
}

/** Every column that the models name must be there: a table that differs is never taken for the right one. */
export function missingColumns(
  schema: Schema,
  { rulesets }: TableOptions,
  columnsOf: (table: string) => readonly string[],
): string | null {
  for (const { table, fields, ruleset } of schema) {
    if (rulesets !== undefined && !rulesets.includes(ruleset)) continue;
    const columns = columnsOf(table);
    if (columns.length === 0) return `there is no table "${table}" for ${ruleset}`;
    const lacking = Object.values(fields).find(({ column }) => !columns.includes(column));
    if (lacking !== undefined)
      return `the table "${table}" has no column "${lacking.column}" for ${ruleset}.${lacking.path}`;
  }
  return null;
}
