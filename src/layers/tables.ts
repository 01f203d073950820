import type { Schema } from '../core/declare/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import type { Answer, Blame, Case, Row } from '../core/model/index.js';
import { tablesOf } from '../core/targets/index.js';
import type { Connection, Handle } from '../server/connections/index.js';
import { blamesFrom, type ForeignConstraints, type Names, namesOf } from '../server/database-errors/index.js';
import { finding, type Inserted, insertRows, RowRefused, readAgain } from '../server/insert.js';
import { readRows, storedRecord } from '../server/read-records.js';
import { NoRows, type RowToWrite, recordFrom, rowsOf } from '../server/rows.js';
import { byBefore } from './by-before.js';
import { deleted } from './deleted.js';
import { filledIn } from './filled.js';
import { GivenKeys } from './given-keys.js';
import { type JudgedOptions, modelOf, type OpenLayer, rowFor, type Surroundings } from './layer.js';
import { lost } from './lost.js';
import { messageOf } from './message-of.js';
import { assertNothingStays } from './nothing-stays.js';
import { type OtherNames, unfitName, withNames } from './other-names.js';
import { storeBefore } from './rows-before.js';
import { isOfStoredRow } from './stored-already.js';
import { undone } from './undone.js';
import { unfit } from './unfit.js';
import { updated } from './updated.js';

/** Which tables are probed: without any of these, the compiled ones, in an engine in this process. */
export interface TableOptions extends JudgedOptions {
  /** A file that creates the tables, in place of the compiled one. */
  readonly sql?: string;
  /** The address of a database whose tables are there: `${NAME}` stands for a variable of the environment. */
  readonly url?: string;
  /** An open connection to such a database. It stays open. */
  readonly handle?: Handle | (() => Handle | Promise<Handle>);
  /** What the tables call things otherwise than declared. */
  readonly names?: OtherNames;
  /** The rulesets to probe, where there is not a table for each; the tables that they refer to must be there. */
  readonly rulesets?: readonly string[];
}

/** A case as rows, and what became of them. */
export interface Attempt {
  readonly case: Case;
  readonly row: RowToWrite;
}
export type Outcome =
  | { readonly inserted: readonly Inserted[] }
  | { readonly error: unknown; readonly row: RowToWrite };

/** What probing asks of an engine beside statements. Everything happens on one connection. */
export interface TableEngine {
  readonly name: string;
  readonly connection: Connection;
  /** What a transaction begins with, so that every rule speaks at once and not at its end. */
  readonly begin: string;
  /** The columns of a table by name; none where there is no such table. Those that the engine works out are left out. */
  columnsOf(table: string): Promise<readonly string[]>;
  /** Why a table can't be probed without leaving something behind; null where it can. */
  refuses(table: string): Promise<string | null>;
  /** The columns of constraints that are not ours. */
  foreign(): Promise<ForeignConstraints>;
  /** Tries many at once, each undone after; null for one that must be tried by itself. */
  batch(attempts: readonly Attempt[]): Promise<readonly (Outcome | null)[]>;
  /** True where a row that went in breaks a rule that would speak at the end of the transaction only. */
  breaksLater(tables: readonly string[]): Promise<boolean>;
  /** An error that the engine's own reading does not take for a refusal, and that is one all the same. */
  isRefusal(error: unknown): boolean;
  /** How many rows a table holds after a refusal; null where the engine answers nothing more by then. */
  count(table: string): Promise<number | null>;
  /** How many rows there are in each table that no rollback empties; none where there is no such table. */
  beyondRollback(): Promise<ReadonlyMap<string, number>>;
  close(): Promise<void>;
}

/** What attributes an engine's words to rules; worked out once. */
interface Known {
  /** The rulesets whose tables hold rows that no case knows of. */
  readonly filled: ReadonlySet<string>;
  readonly foreign: ForeignConstraints;
  readonly names: ReadonlyMap<string, Names>;
}

/**
 * Makes the tables where there is SQL to make them, and makes sure that they are the declared ones.
 *
 * @throws ProblemError where the SQL is missing or fails, a table or column is not there, or a table can't be probed
 */
export async function openTables(
  engine: TableEngine,
  options: TableOptions,
  { schema: declared }: Surroundings,
  sql: string | null,
): Promise<OpenLayer> {
  const { names = {} } = options;
  const schema = withNames(declared, names);
  const unreachable = async (reason: string): Promise<never> => {
    await engine.close();
    throw new ProblemError([problems.layerUnreachable(null, engine.name, reason)]);
  };
  const unfitting = async (reason: string): Promise<never> => {
    await engine.close();
    throw new ProblemError([problems.layerUnfit(null, engine.name, reason)]);
  };
  const unfittingName = unfitName(declared, names, engine.name);
  if (unfittingName !== null) await unfitting(unfittingName);
  if (sql !== null)
    await engine.connection.run(sql).catch((error) => unreachable(`its SQL fails: ${messageOf(error)}`));
  const lacking = await unfit(engine, schema, options).catch((error) => unreachable(messageOf(error)));
  if (lacking !== null) await unfitting(lacking);
  const known: Known = {
    filled: sql === null ? await filledIn(engine.connection, schema) : new Set(),
    foreign: await engine.foreign(),
    names: new Map(schema.map((model) => [model.ruleset, namesOf(model)])),
  };
  return {
    async *answer(cases) {
      const answers = (group: readonly Case[]) =>
        undone(engine.connection, engine.begin, () => answerGroup(engine, schema, known, group));
      try {
        await assertNothingStays(engine, cases, answers);
        for (const group of byBefore(cases)) yield* answers(group);
      } catch (error) {
        throw lost(error, engine.name);
      }
    },
    async stored(ruleset, most) {
      const model = modelOf(ruleset, schema);
      const rows = await readRows(engine.connection, model, most === undefined ? '' : ` LIMIT ${most}`, []);
      return rows.map((row) => storedRecord(model, schema, engine.connection, row));
    },
    close: () => engine.close(),
  };
}

/** So many cases go to an engine at once; one with more text than this goes by itself, as a statement has its limits. */
const AT_ONCE = 400;
const MOST_AT_ONCE = 10_000;

/** The length of all values of a record's rows as text. */
function lengthOf({ columns, belonging }: RowToWrite): number {
  const own = columns.reduce((sum, { value }) => sum + String(value ?? '').length, 0);
  return belonging.reduce((sum, row) => sum + lengthOf(row), own);
}

/** Each case behind a savepoint of the transaction that it is answered in. */
async function* answerGroup(
  engine: TableEngine,
  schema: Schema,
  known: Known,
  group: readonly Case[],
): AsyncIterable<readonly [Case, Answer]> {
  const { connection } = engine;
  const keys = new GivenKeys(schema);
  const failed = await storeBefore(connection, schema, group[0]?.before ?? [], keys, known.filled);
  for (let at = 0; at < group.length; at += AT_ONCE) {
    const attempts: Attempt[] = [];
    for (const one of group.slice(at, at + AT_ONCE)) {
      const row = failed ?? (await rowOf(one, schema, engine, keys));
      if ('table' in row) attempts.push({ case: one, row });
      else yield [one, row] as const;
    }
    if (attempts.length === 0) continue;
    const isSmall = ({ case: one, row }: Attempt) => one.does === 'insert' && lengthOf(row) <= MOST_AT_ONCE;
    const small = attempts.filter(isSmall);
    const tried = await engine.batch(small);
    const outcomes = new Map(small.map((attempt, index) => [attempt, tried[index] ?? null]));
    for (const attempt of attempts) {
      const outcome = outcomes.get(attempt) ?? null;
      yield [
        attempt.case,
        outcome === null
          ? await answerAlone(engine, schema, known, attempt, keys)
          : answerFrom(engine, schema, known, attempt, outcome, keys),
      ] as const;
    }
  }
}

/** The rows of a case, or why it has none. */
async function rowOf(
  one: Case,
  schema: Schema,
  { connection }: TableEngine,
  keys: GivenKeys,
): Promise<RowToWrite | Answer> {
  const model = modelOf(one.ruleset, schema);
  try {
    return await rowsOf(model, keys.toTable(model, rowFor(one, schema) ?? {}), schema, connection.engine);
  } catch (error) {
    if (error instanceof NoRows) return { notApplicable: error.message };
    throw error;
  }
}

async function answerAlone(
  engine: TableEngine,
  schema: Schema,
  known: Known,
  attempt: Attempt,
  keys: GivenKeys,
): Promise<Answer> {
  const { connection } = engine;
  const model = modelOf(attempt.case.ruleset, schema);
  await connection.run('SAVEPOINT probe');
  try {
    const before = await engine.count(model.table);
    if (attempt.case.does === 'delete') {
      const answer = await deleted(connection, schema, attempt.case, attempt.row, keys, known.filled);
      const isTaken = 'accepted' in answer;
      return isTaken && (await engine.breaksLater(tablesOf(model).map(({ name }) => name))) ? { refused: [] } : answer;
    }
    if (attempt.case.does !== 'insert') return await answerUpdate(engine, schema, known, attempt, keys);
    const outcome = await insertRows(connection, attempt.row)
      .then(async (inserted): Promise<Outcome> => ({ inserted: await readAgain(connection, inserted) }))
      .catch((error: unknown): Outcome => {
        if (!(error instanceof RowRefused)) throw error;
        return { error: error.cause, row: error.row };
      });
    const answer = answerFrom(engine, schema, known, attempt, outcome, keys);
    if ('accepted' in answer) {
      const later = await engine.breaksLater(tablesOf(model).map(({ name }) => name));
      return later ? { refused: [] } : answer;
    }
    // What a record's own row leaves when one of its list is refused goes when the write is rolled back.
    const isOwn = 'row' in outcome && outcome.row === attempt.row;
    const after = 'refused' in answer && isOwn ? await engine.count(model.table).catch(() => null) : null;
    const grown = before !== null && after !== null && after > before;
    return grown ? { ...answer, residue: 'refuses it, and stores a row all the same' } : answer;
  } finally {
    await connection.run('ROLLBACK TO probe');
  }
}

/** The stored record is there first, and then is another one. */
async function answerUpdate(
  engine: TableEngine,
  schema: Schema,
  known: Known,
  attempt: Attempt,
  keys: GivenKeys,
): Promise<Answer> {
  const { connection } = engine;
  const { case: one, row } = attempt;
  const outcome = await updated(connection, schema, one, row, keys);
  if ('record' in outcome) {
    const later = await engine.breaksLater(tablesOf(modelOf(one.ruleset, schema)).map(({ name }) => name));
    return later ? { refused: [] } : { accepted: outcome.record };
  }
  return 'unstored' in outcome
    ? // Why not, the case that inserts such a record tells.
      { notApplicable: 'the record to be changed cannot be stored' }
    : answerFrom(engine, schema, known, attempt, outcome, keys);
}

function answerFrom(
  engine: TableEngine,
  schema: Schema,
  known: Known,
  { case: one }: Attempt,
  outcome: Outcome,
  keys: GivenKeys,
): Answer {
  const model = modelOf(one.ruleset, schema);
  if ('inserted' in outcome) {
    if (outcome.inserted.some(({ row, columns }) => columns === null && row.table.of === '')) return { accepted: {} };
    const sent = rowFor(one, schema) ?? {};
    const record = recordFrom(model, sent, schema, engine.connection.engine, finding(outcome.inserted));
    return { accepted: keys.fromTable(model, record) };
  }
  const { error, row } = outcome;
  const names = known.names.get(one.ruleset) ?? namesOf(model);
  const blames =
    blamesFrom(error, model, names, known.foreign, row.table.name) ?? (engine.isRefusal(error) ? [] : null);
  if (blames === null) return { breakdown: messageOf(error) };
  const refused = blames.map((blame) => atItem(blame, row));
  const isElsewhere = known.filled.size > 0 && isOfStoredRow(refused, one, (rowFor(one, schema) ?? {}) as Row, model);
  return isElsewhere ? { notApplicable: 'a row that is stored already has the same values' } : { refused };
}

/** The engine names a column of a list's table; which item it was is known by the row. */
function atItem(blame: Blame, { indices }: RowToWrite): Blame {
  const places = [...indices.values()];
  const pointer = blame.pointer?.replace(/\/-(?=\/|$)/g, (unknown) => `/${places.shift() ?? unknown.slice(1)}`);
  return { ...blame, pointer: pointer ?? null };
}
