import type { Schema } from '../core/declare/index.js';
import type { Case, Row } from '../core/model/index.js';
import { type EngineName, ledgerOf } from '../core/targets/index.js';
import { modelOf, rowFor } from '../layers/layer.js';
import { insertStatements, isUnstatable } from '../server/statements.js';
import { type Expectation, expectationOf } from './expectation.js';

/** A case as statements of SQL: those that store the rows before it, and its own. */
export interface CaseStatements {
  readonly case: Case;
  readonly before: readonly string[];
  readonly own: readonly string[];
  /** The tables that its own rows are for, as the engine spells them. */
  readonly tables: readonly string[];
  readonly outcome: Expectation['outcome'];
  /** What the tables should do with it, in words. */
  readonly expects: string;
}

/**
 * Cases as statements for one engine. Left out are those of which a server hands nothing on, those that change a stored
 * record, and those with text that no statement holds.
 */
export async function caseStatements(
  cases: readonly Case[],
  engine: EngineName,
  schema: Schema,
): Promise<readonly CaseStatements[]> {
  const ledger = ledgerOf(schema, [engine]);
  const insert = (ruleset: string, row: Row) => insertStatements(modelOf(ruleset, schema), row, schema, engine);
  const written: CaseStatements[] = [];
  for (const one of cases) {
    const row = one.does === 'insert' ? rowFor(one, schema) : null;
    if (row === null) continue;
    try {
      const before: string[] = [];
      for (const stored of one.before) before.push(...(await insert(stored.ruleset, stored.row)));
      const own = await insert(one.ruleset, row as Row);
      const tables = own.map((statement) => tableIn(statement));
      const { outcome, rules, why } = expectationOf(one, engine, ledger);
      const expects = outcome === 'either' ? `either, by the ledger: ${why}` : [outcome, ...rules].join(' ');
      written.push({ case: one, before, own, tables, outcome, expects });
    } catch (error) {
      if (!isUnstatable(error)) throw error;
    }
  }
  return written;
}

/** The table of an INSERT, as it is spelled there. */
function tableIn(statement: string): string {
  return /^INSERT INTO ("(?:[^"]|"")+"|`(?:[^`]|``)+`|\S+) /.exec(statement)?.[1] ?? '';
}

/** Whether a case is for a table: it inserts what a server hands on. */
export function isForTable(schema: Schema): (one: Case) => boolean {
  return (one) => one.on === 'server' && one.does === 'insert' && rowFor(one, schema) !== null;
}

/** Whether a case is for whoever takes records off a wire and knows no stored ones; `does` are the operations it takes. */
export function isWithoutStore(schema: Schema, does: (one: Case) => readonly Case['does'][]): (one: Case) => boolean {
  const lookups = new Set(
    schema.flatMap(({ constraints }) => constraints.filter(({ stage }) => stage === 'lookup').map(({ id }) => id)),
  );
  return (one) =>
    one.on === 'server' && one.wire !== 'row' && !lookups.has(one.constraint) && does(one).includes(one.does);
}
