import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { PGlite } from '@electric-sql/pglite';
import fc from 'fast-check';
import initSqlJs, { type Database } from 'sql.js';
import { automatonOf, coveringWords, readPattern } from '../../src/core/reason/index.js';
import { spelling as spellingPostgresql } from '../../src/core/targets/postgresql/names.js';
import { matches as matchesPostgresql } from '../../src/core/targets/postgresql/predicates.js';
import { printSql } from '../../src/core/targets/sql/print.js';
import { spelling as spellingSqlite } from '../../src/core/targets/sqlite/names.js';
import { matches as matchesSqlite } from '../../src/core/targets/sqlite/predicates.js';
import { pattern, texts } from '../fixtures/patterns.js';
import { soak } from '../fixtures/records.js';

const RUNS = soak ? 2_000 : 150;

/** Patterns of fields as people write them, beside the random ones. */
const usual = [
  '[A-Z]{2}-[0-9]{4}',
  '\\+[0-9]{1,3}(?: [0-9]{2,5}){2,4}',
  '[a-z][a-z0-9]*(?:-[a-z0-9]+)*',
  '#(?:[0-9a-f]{3}){1,2}',
  '(?:a{2}){3}',
  '(?:a{1,2}b?)+',
  '[0-9]{3,}',
  'x{0,300}',
  '\\w+@\\w+',
  '[^\\s]+',
  '(?:0|[1-9]\\d*)(?:\\.\\d{1,2})?',
  '[\\]\\[^-]+',
  '[*?]\\[.',
];

interface Sample {
  readonly source: string;
  readonly list: readonly string[];
}

/** Texts that a pattern accepts and texts near them, without what no text column takes. */
function samples(): readonly Sample[] {
  const random = fc.sample(fc.tuple(pattern, fc.array(texts, { minLength: 6, maxLength: 6 })), {
    numRuns: RUNS,
    seed: 3,
  });
  return [
    ...random,
    ...usual.map((source) => [source, ['aa', 'aaaaaa', 'ab', '#fff', 'x'.repeat(300), 'x'.repeat(301)]] as const),
  ].map(([source, more]) => {
    const words = coveringWords(automatonOf(readPattern({ source, flags: 'u' })), 8);
    const near = words.slice(0, 3).flatMap((word) => [`${word}x`, `\n${word}`, word.slice(1), word.toUpperCase()]);
    const list = [...new Set([...words, ...near, ...more])].filter((text) => !/[\u0000\p{Surrogate}]/u.test(text));
    return { source, list };
  });
}

/** Inserts into a table with the pattern's triggers: true where the row goes in. */
function trigger(database: Database, statements: readonly string[], text: string): boolean {
  database.run('CREATE TABLE walked (x TEXT)');
  for (const statement of statements) database.run(statement);
  try {
    database.run('INSERT INTO walked VALUES (?)', [text]);
    database.run('UPDATE walked SET x = x');
    return true;
  } catch (error) {
    assert.equal((error as Error).message, 'walked_x');
    return false;
  } finally {
    database.run('DROP TABLE walked');
  }
}

describe('patterns in the engines', () => {
  const all = samples();

  test(`PostgreSQL: ${all.length} patterns accept what ECMAScript accepts`, async () => {
    const database = await PGlite.create();
    for (const { source, list } of all) {
      const held = matchesPostgresql({ column: 'x' }, { source, flags: 'u' });
      assert.ok('check' in held, source);
      const sql = `SELECT x, ${printSql(held.check, spellingPostgresql)} AS held FROM unnest($1::text[]) AS t (x)`;
      const { rows } = await database.query<{ x: string; held: boolean }>(sql, [list]);
      const whole = new RegExp(`^(?:${source})$`, 'u');
      for (const { x, held: accepted } of rows)
        assert.equal(accepted, whole.test(x), `${source} on ${JSON.stringify(x)}`);
    }
    await database.close();
  });

  test(`SQLite: ${all.length} patterns accept what ECMAScript accepts, by GLOB and by walking`, async () => {
    const database = new (await initSqlJs()).Database();
    let walked = 0;
    for (const { source, list } of all) {
      const held = matchesSqlite(
        { column: 'x' },
        { source, flags: 'u' },
        { table: 'walked', column: 'x', name: 'walked_x' },
      );
      assert.ok(!('untranslated' in held), source);
      if ('statements' in held) walked += 1;
      const whole = new RegExp(`^(?:${source})$`, 'u');
      for (const text of list) {
        const accepted: boolean =
          'check' in held
            ? database.exec(`SELECT ${printSql(held.check, spellingSqlite)} FROM (SELECT ? AS x)`, [text])[0]
                ?.values[0]?.[0] === 1
            : trigger(database, held.statements, text);
        assert.equal(accepted, whole.test(text), `${source} on ${JSON.stringify(text)}`);
      }
    }
    assert.ok(walked > 10 && walked < all.length - 10, `${walked} of ${all.length} walk an automaton`);
    database.close();
  });
});
