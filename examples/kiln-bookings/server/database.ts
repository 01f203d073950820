import { readFile } from 'node:fs/promises';
import type { AnyRuleset } from 'echo-rule';
import { type Handle, insertRecord, listRecords } from 'echo-rule/server';
import { firing } from '../rules/firing.rules.ts';
import { kiln } from '../rules/kiln.rules.ts';
import { potter } from '../rules/potter.rules.ts';

/** The rulesets of the studio, each after those that it refers to. */
export const rulesets: readonly AnyRuleset[] = [kiln, potter, firing];

/** Hands an open connection to whoever needs one, to nobody else meanwhile, and takes it back. */
export interface Database {
  use<T>(work: (handle: Handle) => Promise<T>): Promise<T>;
  /** Runs a script. */
  run(sql: string): Promise<unknown>;
  close(): Promise<void>;
}

/**
 * PostgreSQL at an address, or embedded (in memory) without one. The tables are made where they are missing; where others
 * of these names are there, the script stops and lists the differences.
 */
export async function openDatabase(url?: string): Promise<Database> {
  const database = url === undefined ? await embedded() : await served(url);
  const tables = await readFile(new URL('../echo/postgresql/tables.sql', import.meta.url), 'utf8');
  await database.run(tables);
  await database.use(seed);
  return database;
}

/** One connection for all: each waits for the one before. */
async function embedded(): Promise<Database> {
  const { PGlite } = await import('@electric-sql/pglite');
  const handle = await PGlite.create();
  let last: Promise<unknown> = Promise.resolve();
  return {
    use(work) {
      const done = last.then(() => work(handle));
      last = done.catch(() => {});
      return done;
    },
    run: (sql) => handle.exec(sql),
    close: () => handle.close(),
  };
}

async function served(url: string): Promise<Database> {
  const { default: pg } = await import('pg');
  const pool = new pg.Pool({ connectionString: url, max: 10 });
  return {
    async use(work) {
      const client = await pool.connect();
      try {
        return await work(client);
      } finally {
        client.release();
      }
    },
    run: (sql) => pool.query(sql),
    close: () => pool.end(),
  };
}

/** Made-up records, into tables that are empty. */
async function seed(handle: Handle): Promise<void> {
  for (const ruleset of rulesets) {
    if ((await listRecords(handle, ruleset, { rulesets })).length > 0) continue;
    const lines = await readFile(new URL(`../records/${ruleset.name}.jsonl`, import.meta.url), 'utf8');
    for (const line of lines.trimEnd().split('\n')) {
      const written = await insertRecord(handle, ruleset, JSON.parse(line), { rulesets });
      if (!written.ok) throw new Error(`a record of records/${ruleset.name}.jsonl is refused: ${line}`);
    }
  }
}
