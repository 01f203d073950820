import { existsSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import type { Schema } from '../core/declare/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import type { Answer, Blame, Case, Row } from '../core/model/index.js';
import { storedFields } from '../core/targets/index.js';
import { modelOf, type OpenLayer, rowFor, type Surroundings } from './layer.js';

/** Without `sql`, the tables that were compiled. */
export interface TableOptions {
  /** A file that creates the tables, in place of the compiled one. */
  readonly sql?: string;
  /** The rulesets to probe, where the file has not a table for each; the tables that they refer to must be there. */
  readonly rulesets?: readonly string[];
}

/** What probing asks of an engine. Everything happens on one connection. */
export interface TableEngine {
  readonly name: string;
  run(sql: string): Promise<void>;
  /** What a transaction begins with, so that every rule speaks at once and not at its end. */
  readonly begin: string;
  /** Told once the tables are there. */
  created(): Promise<void>;
  columnsOf(table: string): Promise<readonly string[]>;
  /** Inserts a row and reads it back; empty where the engine reports success and stored nothing. */
  insert(model: Schema[number], row: { readonly [name: string]: unknown }): Promise<Row>;
  /** True where a row that went in breaks a rule that would speak at the end of the transaction only. */
  breaksLater(model: Schema[number]): Promise<boolean>;
  /** What a refused write blames; null where the error is no refusal. */
  blames(error: unknown, model: Schema[number]): readonly Blame[] | null;
  /** How many rows a table holds after a refusal; null where the engine answers nothing more by then. */
  count(model: Schema[number]): Promise<number | null>;
  close(): Promise<void>;
}

/**
 * Creates the tables in an engine of their own, and makes sure that they are the declared ones.
 *
 * @throws ProblemError where the SQL is missing or fails, or a table or column is not there
 */
export async function openTables(
  engine: TableEngine,
  options: TableOptions,
  surroundings: Surroundings,
  sql: string,
): Promise<OpenLayer> {
  const { schema } = surroundings;
  const unreachable = async (reason: string): Promise<never> => {
    await engine.close();
    throw new ProblemError([problems.layerUnreachable(null, engine.name, reason)]);
  };
  await engine.run(sql).catch((error: unknown) => unreachable(`its SQL fails: ${messageOf(error)}`));
  await engine.created();
  const lacking = await missingColumns(engine, schema, options);
  if (lacking !== null) await unreachable(lacking);
  return {
    async *answer(cases) {
      for (const group of byBefore(cases)) yield* answerGroup(engine, schema, group);
    },
    close: () => engine.close(),
  };
}

/** The text that creates the tables: the compiled file, or the one that the options name. */
export function tablesSql({ sql }: TableOptions, target: string, { folder, output }: Surroundings): string {
  const file = sql === undefined ? resolve(output, `${target}/tables.sql`) : resolve(folder, sql);
  if (existsSync(file)) return readFileSync(file, 'utf8');
  const missing = problems.fileMissing(null, 'The layer', file);
  throw new ProblemError([sql === undefined ? problems.notCompiled(null, file) : missing]);
}

/** Every column that the models name must be there: a table that differs is never taken for the right one. */
async function missingColumns(engine: TableEngine, schema: Schema, { rulesets }: TableOptions): Promise<string | null> {
  for (const model of schema) {
    const { table, ruleset } = model;
    if (rulesets !== undefined && !rulesets.includes(ruleset)) continue;
    const columns = await engine.columnsOf(table);
    if (columns.length === 0) return `there is no table "${table}" for ${ruleset}`;
    const lacking = storedFields(model).find(({ column }) => !columns.includes(column));
    if (lacking !== undefined) {
      return `the table "${table}" has no column "${lacking.column}" for ${ruleset}.${lacking.path}`;
    }
  }
  return null;
}

/** Cases with the same rows before them, together: those rows are stored once for all of them. */
function byBefore(cases: readonly Case[]): readonly (readonly Case[])[] {
  const groups = new Map<string, Case[]>();
  for (const one of cases) {
    const key = JSON.stringify(one.before);
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return [...groups.values()];
}

/** All in one transaction that is rolled back; each case behind a savepoint. */
async function* answerGroup(
  engine: TableEngine,
  schema: Schema,
  group: readonly Case[],
): AsyncIterable<readonly [Case, Answer]> {
  await engine.run(engine.begin);
  try {
    const failed = await storeBefore(engine, schema, group[0]);
    for (const one of group) {
      if (failed !== null) {
        yield [one, { breakdown: failed }] as const;
        continue;
      }
      await engine.run('SAVEPOINT probe');
      const answer = await answerOne(engine, schema, one);
      await engine.run('ROLLBACK TO probe');
      yield [one, answer] as const;
    }
  } finally {
    await engine.run('ROLLBACK');
  }
}

async function storeBefore(engine: TableEngine, schema: Schema, first: Case | undefined): Promise<string | null> {
  try {
    for (const { ruleset, row } of first?.before ?? []) await engine.insert(modelOf(ruleset, schema), row);
    return null;
  } catch (error) {
    return `the rows that are there before can't be stored: ${messageOf(error)}`;
  }
}

async function answerOne(engine: TableEngine, schema: Schema, one: Case): Promise<Answer> {
  const model = modelOf(one.ruleset, schema);
  const before = await engine.count(model);
  try {
    const accepted = await engine.insert(model, rowFor(one, schema) ?? {});
    return (await engine.breaksLater(model)) ? { refused: [] } : { accepted };
  } catch (error) {
    const blames = engine.blames(error, model);
    const after = blames === null ? null : await engine.count(model).catch(() => null);
    const grown = before !== null && after !== null && after > before;
    const residue = grown ? { residue: 'refuses it, and stores a row all the same' } : {};
    return blames === null ? { breakdown: messageOf(error), ...residue } : { refused: blames, ...residue };
  }
}

function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
