import { ProblemError, problems } from '../../core/messages/index.js';
import { type Answer, type Blame, type Case, type Row, writes } from '../../core/model/index.js';
import { documentIndex, documentTable, quoteName } from '../../core/targets/index.js';
import { type Connection, connectionOf } from '../../server/connections/index.js';
import { blamesFrom, type Names, namesOf } from '../../server/database-errors/index.js';
import { madeOf, NoRows } from '../../server/rows.js';
import { byBefore } from '../by-before.js';
import { judgedBy, type Layer, modelOf, type OpenLayer, rowFor, type Surroundings } from '../layer.js';
import { lost } from '../lost.js';
import { messageOf } from '../message-of.js';
import { openedPostgresql } from '../postgresql.js';
import { isOfStoredRow } from '../stored-already.js';
import type { TableOptions } from '../tables.js';
import { isCompiled, isLive, tablesSql } from '../tables-sql.js';
import { undone } from '../undone.js';
import { documentOf, isPlain, readAgain } from './document.js';

/** Where the documents are: without an address or a connection, in the compiled tables in an engine in this process. */
export interface PostgresqlDocumentOptions
  extends Pick<TableOptions, 'sql' | 'url' | 'handle' | 'rulesets' | 'compiled' | 'tolerates'> {
  /** The table of each ruleset's documents, and its column of JSON, where they are called otherwise. */
  readonly tables?: { readonly [ruleset: string]: { readonly table: string; readonly column?: string } };
}

/**
 * Documents in PostgreSQL, in a column of the type jsonb whose CHECKs guard it. Everything happens in a transaction that is
 * rolled back.
 */
export function postgresqlDocumentLayer(options: PostgresqlDocumentOptions = {}): Layer {
  return {
    kind: 'documents',
    ...judgedBy(options, isCompiled(options)),
    target: 'postgresql-documents',
    rulesets: options.rulesets ?? null,
    holdsRows: isLive(options),
    can: { store: true, allViolations: false, wires: ['row'], does: writes, on: ['server'], convertsFirst: true },
    open: (surroundings) => open(options, surroundings),
  };
}

/** Where a ruleset's documents are, as SQL spells it. */
interface Collection {
  readonly name: string;
  readonly table: string;
  readonly column: string;
  readonly names: Names;
}

class Collections {
  readonly connection: Connection;
  readonly schema: Surroundings['schema'];
  /** The tables were there before, and may hold documents that no case knows of. */
  readonly live: boolean;
  readonly #options: PostgresqlDocumentOptions;

  constructor(
    connection: Connection,
    schema: Surroundings['schema'],
    live: boolean,
    options: PostgresqlDocumentOptions,
  ) {
    this.connection = connection;
    this.schema = schema;
    this.live = live;
    this.#options = options;
  }

  readonly of = (ruleset: string): Collection => {
    const model = modelOf(ruleset, this.schema);
    const { table = documentTable(model), column = 'document' } = this.#options.tables?.[ruleset] ?? {};
    const inIndexes = model.constraints.map((one) => [documentIndex(one.id).toLowerCase(), one] as const);
    const names = new Map([...namesOf(model), ...inIndexes]);
    return { name: table, table: quoteName(table), column: quoteName(column), names };
  };

  /** The rulesets that are asked about. */
  get rulesets(): readonly string[] {
    return this.#options.rulesets ?? this.schema.map(({ ruleset }) => ruleset);
  }
}

/** @throws ProblemError `layer_unreachable` where the database or a table is not there, or its SQL fails */
async function open(options: PostgresqlDocumentOptions, surroundings: Surroundings): Promise<OpenLayer> {
  const sql = tablesSql(options, 'postgresql-documents', surroundings);
  const { handle, close } = await openedPostgresql(options);
  const collections = new Collections(connectionOf(handle), surroundings.schema, sql === null, options);
  const { connection } = collections;
  try {
    if (sql !== null) await connection.run(sql);
    // What is not there is told now, and not for each case.
    for (const ruleset of collections.rulesets) {
      const { table, column } = collections.of(ruleset);
      await connection.rows(`SELECT ${column} FROM ${table} LIMIT 0`);
    }
  } catch (error) {
    await close();
    throw new ProblemError([problems.layerUnreachable(null, 'documents', messageOf(error))]);
  }
  return {
    async *answer(cases) {
      try {
        for (const group of byBefore(cases)) yield* undone(connection, 'BEGIN', () => answerGroup(collections, group));
      } catch (error) {
        throw lost(error, 'documents');
      }
    },
    async stored(ruleset, most) {
      const { table, column } = collections.of(ruleset);
      const limit = most === undefined ? '' : ` LIMIT ${most}`;
      const rows = await connection.rows(`SELECT ${column}::text AS document FROM ${table}${limit}`);
      return rows.map(({ document }) => recordIn(document, ruleset, collections));
    },
    close,
  };
}

/** Each case behind a savepoint of the transaction that it is answered in. */
async function* answerGroup(collections: Collections, group: readonly Case[]): AsyncIterable<readonly [Case, Answer]> {
  const { connection } = collections;
  const failed = await storeBefore(collections, group[0]);
  if (failed === null) await connection.run('SAVEPOINT probe');
  for (const one of group) {
    if (failed !== null) yield [one, { breakdown: failed }] as const;
    else {
      const answer = await answerTo(collections, one);
      await connection.run('ROLLBACK TO probe');
      yield [one, answer] as const;
    }
  }
}

async function storeBefore(collections: Collections, first: Case | undefined): Promise<string | null> {
  try {
    for (const { ruleset, row } of first?.before ?? [])
      if (collections.rulesets.includes(ruleset)) await insert(collections, ruleset, row);
    return null;
  } catch (error) {
    return `the documents that are there before can't be stored: ${messageOf(error)}`;
  }
}

/** A document that is put in the place of a stored one, or over parts of it, is written as a whole. */
async function answerTo(collections: Collections, one: Case): Promise<Answer> {
  const { ruleset, does, existing } = one;
  const model = modelOf(ruleset, collections.schema);
  const row = rowFor(one, collections.schema);
  if (row === null) return { notApplicable: 'the server refuses it and hands on nothing' };
  const { name, names } = collections.of(ruleset);
  const refusedBy = (error: unknown) => blamesFrom(error, model, names, new Map(), name)?.map(withoutEntry) ?? null;
  let place: string | null = null;
  if (does !== 'insert') {
    const stored = await insert(collections, ruleset, existing ?? {}).catch((error: unknown) => {
      if (refusedBy(error) === null) throw error;
      return null;
    });
    // Why not, the case that inserts such a record tells.
    if (stored === null) return { notApplicable: 'the record to be changed cannot be stored' };
    place = stored.place;
  }
  try {
    const { document } =
      place === null ? await insert(collections, ruleset, row) : await replace(collections, ruleset, row, place);
    return { accepted: recordIn(document, ruleset, collections, row) };
  } catch (error) {
    if (error instanceof NoRows) return { notApplicable: error.message };
    const refused = refusedBy(error);
    if (refused === null) return { breakdown: messageOf(error) };
    const isElsewhere = collections.live && isOfStoredRow(refused, one, row as Row, model);
    return isElsewhere ? { notApplicable: 'a document that is stored already has the same values' } : { refused };
  }
}

/** A CHECK says of a list as a whole that some entry is wrong. */
function withoutEntry(blame: Blame): Blame {
  return /\/-(?:\/|$)/.test(blame.pointer ?? '') ? { ...blame, pointer: null } : blame;
}

/** What is stored, as it is read then, and where in its table. */
interface Stored {
  readonly document: unknown;
  readonly place: string;
}
type Record = { readonly [name: string]: unknown };

function insert(collections: Collections, ruleset: string, record: Record): Promise<Stored> {
  const { table, column } = collections.of(ruleset);
  return write(collections, `INSERT INTO ${table} (${column}) VALUES ($1::jsonb)`, ruleset, [record]);
}

function replace(collections: Collections, ruleset: string, record: Record, place: string): Promise<Stored> {
  const { table, column } = collections.of(ruleset);
  return write(collections, `UPDATE ${table} SET ${column} = $1::jsonb WHERE ctid = $2::tid`, ruleset, [record, place]);
}

async function write(
  { connection, schema, of }: Collections,
  sql: string,
  ruleset: string,
  [record, ...values]: readonly [Record, ...string[]],
): Promise<Stored> {
  const { column } = of(ruleset);
  const model = modelOf(ruleset, schema);
  const document = JSON.stringify(documentOf(model.fields, { ...record, ...(await madeOf(model, record)) }));
  const [stored] = await connection.rows(`${sql} RETURNING ${column}::text AS document, ctid::text AS place`, [
    document,
    ...values,
  ]);
  if (stored === undefined) throw new Error('it is neither stored nor refused');
  return { document: stored.document, place: String(stored.place) };
}

function recordIn(document: unknown, ruleset: string, { schema }: Collections, sent: Record = {}): Row {
  const read: unknown = JSON.parse(String(document));
  return readAgain(modelOf(ruleset, schema).fields, isPlain(read) ? read : {}, sent) as Row;
}
