import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { PGlite } from '@electric-sql/pglite';
import initSqlJs from 'sql.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { constraintName, targetNames, targets } from '../../src/core/targets/index.js';
import { integer, ruleset, text } from '../../src/index.js';
import { everyKind, studio } from '../fixtures/schema.js';

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
