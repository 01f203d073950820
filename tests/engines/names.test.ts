import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { PGlite } from '@electric-sql/pglite';
import initSqlJs from 'sql.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { constraintName, targetNames, targets } from '../../src/core/targets/index.js';
import { choice, integer, ruleset, text } from '../../src/index.js';
import { everyKind, studio } from '../fixtures/schema.js';
import { connectMariadb, scratchDatabase } from '../fixtures/servers.js';

/** Every word that the engine reserves, as PostgreSQL lists them, and SQLite's own. */
async function reservedWords(database: PGlite): Promise<readonly string[]> {
  const { rows } = await database.query<{ word: string }>("SELECT word FROM pg_get_keywords() WHERE catcode <> 'U'");
  const sqlite =
    'abort action add after before begin cascade conflict database detach each escape except exclusive fail glob if ignore indexed instead isnull key match notnull no pragma query raise regexp reindex release replace restrict row savepoint temp transaction trigger update vacuum values view virtual without';
  return [...new Set([...rows.map(({ word }) => word), ...sqlite.split(' ')])].filter((word) => /^[a-z]+$/.test(word));
}

const awkward = ['Mixed Case', 'sélect', 'with "quotes"', "o'clock", 'a.b', '1st', '🏺', ' '];

describe('names and literals in the engines', () => {
  test('reserved words and any other name make a table that can be filled, in both engines', async () => {
    const database = await PGlite.create();
    const words = await reservedWords(database);
    const columns = [...words, ...awkward];
    const fields = Object.fromEntries(
      columns.map((column, at) => [`f${at}`, text({ column, optional: true, maxLength: 5 })]),
    );
    const schema = schemaOf([
      ruleset('awkward', {
        table: 'order',
        fields: { ...fields, [`f${columns.length}`]: integer({ column: 'limit it', min: 1 }) },
      }),
    ]);
    const [postgresql, sqlite] = (['postgresql', 'sqlite'] as const).map(
      (name) => targets[name].emit(schema)[0]?.text ?? '',
    );
    await database.exec(postgresql ?? '');
    const { rows } = await database.query(
      'INSERT INTO "order" ("limit it", "select") VALUES (1, \'a\') RETURNING "select" AS a',
    );
    assert.deepEqual(rows, [{ a: 'a' }]);
    await assert.rejects(database.query('INSERT INTO "order" ("limit it", "🏺") VALUES (1, \'longer\')'), /max_length/);
    await database.close();
    const engine = new (await initSqlJs()).Database();
    engine.run(sqlite ?? '');
    engine.run('INSERT INTO "order" ("limit it", "select") VALUES (1, \'a\')');
    assert.throws(() => engine.run('INSERT INTO "order" ("limit it", "🏺") VALUES (1, \'longer\')'), /max_length/);
    engine.close();
  });

  test('MariaDB: any name that it takes, and any text in literals', async () => {
    const scratch = await scratchDatabase('mariadb');
    const client = await connectMariadb(scratch);
    const [words] = await client.query('SELECT lower(word) AS word FROM information_schema.keywords');
    const taken = (words as unknown as readonly { readonly word: string }[]).map(({ word }) => word);
    const others = awkward.filter((name) => name.trim() === name && !/[\u{10000}-\u{10ffff}]/u.test(name));
    const columns = [...new Set(['select', 'back`tick', ...others, ...taken])].filter(
      (word) => /^[^<>|&+*-]+$/.test(word) && word !== 'id',
    );
    const strange = "it's a \\ and a \n, a `tick`, a 🏺 and a \u200b";
    // The engine keeps a table's definition in 64 kB: the words go into several tables.
    for (let from = 0; from < columns.length; from += 60) {
      const some = columns.slice(from, from + 60);
      const fields = Object.fromEntries(
        some.map((column, at) => [
          `f${at}`,
          text({ column, optional: true, maxLength: 5, label: `${column} ${strange}` }),
        ]),
      );
      const last = choice({ [strange]: 'Strange' }, { default: strange, column: 'limit it' });
      const table = from === 0 ? 'order' : `order ${from}`;
      const schema = schemaOf([ruleset('awkward', { table, fields: { ...fields, last } })]);
      assert.deepEqual(targets.mariadb.problems(schema), []);
      await client.query(targets.mariadb.emit(schema)[0]?.text ?? '');
      const first = `\`${(some[0] ?? '').replaceAll('`', '``')}\``;
      const [rows] = await client.query(
        `INSERT INTO \`${table}\` (${first}) VALUES ('a') RETURNING ${first} AS a, \`limit it\` AS b`,
      );
      assert.deepEqual(
        [...(rows as unknown as Iterable<object>)].map((row) => ({ ...row })),
        [{ a: 'a', b: strange }],
      );
    }
    await assert.rejects(client.query("INSERT INTO `order` (`back``tick`) VALUES ('longer')"), /max_length|too long/);
    await client.end();
    await scratch.remove();
  });

  test('a constraint’s name is its id in snake case, cut at 63 bytes with a hash of the whole', () => {
    assert.equal(constraintName('firing.loadOn.required'), 'firing_load_on_required');
    const long = 'everything.aRuleWhoseNameIsFarTooLongForADatabaseThatCutsNames';
    const cut = constraintName(long);
    assert.equal(cut.length, 63);
    assert.match(cut, /^everything_a_rule_whose_name_is_far_too_long_for_a_dat_[0-9a-f]{8}$/);
    assert.notEqual(cut, constraintName(`${long}2`));
    assert.equal(cut, constraintName(long));
  });

  test('the same schema gives the same bytes in every target', () => {
    for (const schema of [studio, everyKind]) {
      for (const name of targetNames) assert.deepEqual(targets[name].emit(schema), targets[name].emit(schema));
    }
  });

  test('every constraint has one entry in every ledger, with a reason and a text where it is held', () => {
    for (const name of targetNames) {
      const ledger = targets[name].ledger(everyKind);
      assert.deepEqual(
        ledger.map(({ constraint }) => constraint),
        everyKind.flatMap(({ constraints }) => constraints.map(({ id }) => id)),
      );
      for (const { constraint, becomes, fidelity } of ledger) {
        if (fidelity.is === 'exact') assert.ok(becomes, `${constraint} in ${name}`);
        else assert.ok(fidelity.why, `${constraint} in ${name}`);
      }
    }
  });
});
