import { existsSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import type { Schema } from '../core/declare/index.js';
import { decide } from '../core/meaning/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import type { Answer, Case, Row } from '../core/model/index.js';
import type { Surroundings } from './layer.js';

/** Without `sql`, the tables that were compiled. */
export interface TableOptions {
  /** A file that creates the tables, in place of the compiled one. */
  readonly sql?: string;
}

/** The text that creates the tables: the compiled file, or the one that the options name. */
export function tablesSql({ sql }: TableOptions, target: string, { folder, output }: Surroundings): string {
  const file = sql === undefined ? resolve(output, `${target}/tables.sql`) : resolve(folder, sql);
  if (existsSync(file)) return readFileSync(file, 'utf8');
  throw new ProblemError([
    sql === undefined ? problems.notCompiled(null, file) : problems.fileMissing(null, 'The layer', file),
  ]);
}

/**
 * The row that a case puts before a table: its own on the row wire, otherwise what the compiled server would hand on;
 * null where it would hand on nothing. The server does not know the stored rows.
 */
export function rowFor(one: Case, schema: Schema): { readonly [name: string]: unknown } | null {
  if (one.wire === 'row') return one.input as Row;
  const verdict = decide(modelOf(one.ruleset, schema), one.input, one.wire);
  return 'accepted' in verdict ? verdict.accepted : null;
}

export const handsOnNothing: Answer = { notApplicable: 'the server refuses it and hands on nothing' };

export function modelOf(ruleset: string, schema: Schema): Schema[number] {
  const model = schema.find((one) => one.ruleset === ruleset);
  if (model === undefined) throw new Error(`no ruleset ${ruleset} in the schema`);
  return model;
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
export function missingColumns(schema: Schema, columnsOf: (table: string) => readonly string[]): string | null {
  for (const { table, fields, ruleset } of schema) {
    const columns = columnsOf(table);
    if (columns.length === 0) return `there is no table "${table}" for ${ruleset}`;
    const lacking = Object.values(fields).find(({ column }) => !columns.includes(column));
    if (lacking !== undefined) return `the table "${table}" has no column "${lacking.column}" for ${ruleset}.${lacking.path}`;
  }
  return null;
}
