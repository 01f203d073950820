import { PGlite } from '@electric-sql/pglite';
import { type Handle, insertRecord } from 'echo-rule/server';
import initSqlJs from 'sql.js';
import sqliteWasm from 'sql.js/dist/sql-wasm.wasm?url';
import type { Rules } from './rules.ts';

/** What a table did with a record. */
export type Stored =
  | { readonly stored: { readonly [field: string]: unknown } }
  | { readonly refused: readonly { readonly rule: string; readonly message: string }[] }
  | { readonly broke: string };

type Given = { readonly [field: string]: unknown };

export interface Engine {
  /** Makes the tables of rules anew. */
  use(rules: Rules): Promise<void>;
  /** Inserts a record behind the rows that it refers to, and takes it all back. */
  insert(
    rules: Rules,
    record: object,
    before: readonly { readonly ruleset: string; readonly row: object }[],
  ): Promise<Stored>;
}

/** PostgreSQL in WASM. */
export async function postgresql(): Promise<Engine> {
  const database = await PGlite.create();
  return engine(
    database,
    async ({ postgresql }) => {
      await database.exec('DROP SCHEMA public CASCADE; CREATE SCHEMA public;');
      await database.exec(postgresql);
      return database;
    },
    (sql) => database.exec(sql),
  );
}

/** SQLite in WASM. */
export async function sqlite(): Promise<Engine> {
  const { Database } = await initSqlJs({ locateFile: () => sqliteWasm });
  let database = new Database();
  return engine(
    database,
    async ({ sqlite: tables }) => {
      database.close();
      database = new Database();
      database.run('PRAGMA foreign_keys = ON');
      database.exec(tables);
      return database;
    },
    async (sql) => database.run(sql),
  );
}

/** Each call waits for the one before: there is one connection. */
function engine(
  first: Handle,
  make: (rules: Rules) => Promise<Handle>,
  run: (sql: string) => Promise<unknown>,
): Engine {
  let handle = first;
  let last: Promise<unknown> = Promise.resolve();
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const done = last.then(work);
    last = done.catch(() => {});
    return done;
  };
  return {
    use: (rules) =>
      inTurn(async () => {
        handle = await make(rules);
      }),
    insert: (rules, record, before) =>
      inTurn(async () => {
        const { ruleset, rulesets } = rules;
        await run('BEGIN');
        try {
          for (const { ruleset: name, row } of before) {
            const target = rulesets.find((one) => one.name === name);
            if (target !== undefined) await insertRecord(handle, target, row as Given, { rulesets });
          }
          const written = await insertRecord(handle, ruleset, record as Given, { rulesets });
          return written.ok ? { stored: written.value } : { refused: written.violations };
        } catch (error) {
          return { broke: error instanceof Error ? error.message : String(error) };
        } finally {
          await run('ROLLBACK');
        }
      }),
  };
}
