import assert from 'node:assert/strict';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { after, before, describe, test } from 'node:test';
import initSqlJs from 'sql.js';
import { kiln } from '../../examples/kiln-bookings/rules/kiln.rules.js';
import { askAll, recordStatements, rowsBeside, summarise } from '../../src/agreement/index.js';
import { caseSetsFor, casesFor } from '../../src/core/cases/index.js';
import { fillSchema } from '../../src/core/fill/index.js';
import { ledgerOf, targets } from '../../src/core/targets/index.js';
import { englishWords } from '../../src/fill.js';
import { type Layer, mariadbLayer, postgresqlLayer, sqliteLayer } from '../../src/layers/index.js';
import { insertRecord } from '../../src/server/index.js';
import { type Engine, engineNames, engineWith } from '../fixtures/engines.js';
import { temporaryFolder } from '../fixtures/project.js';
import { modelIn, studio } from '../fixtures/schema.js';

const surroundings = { schema: studio, folder: '.', output: '.' };
const layerOf = { postgresql: postgresqlLayer, mariadb: mariadbLayer, sqlite: sqliteLayer };
const problemOf = async (layer: Layer) =>
  layer.open(surroundings).then(
    () => null,
    (error: { problems: readonly { code: string; message: string }[] }) => error.problems[0] ?? null,
  );

describe('live tables', () => {
  for (const name of engineNames) {
    describe(name, () => {
      let engine: Engine;
      before(async () => {
        engine = await engineWith(name, studio);
        await insertRecord(engine.handle, kiln, { code: 'K77', name: 'The one that is there', hottest: 1200 });
      });
      after(() => engine.close());

      test('probing agrees, and leaves every table as it was', async () => {
        const { handle, connection } = engine;
        const layers = { table: layerOf[connection.engine]({ handle, compiled: true }) };
        const cases = studio.flatMap((model) => casesFor(model, studio));
        const { mismatches } = summarise(await askAll(cases, layers, surroundings), layers, studio, ledgerOf(studio));
        assert.deepEqual(mismatches, []);
        assert.deepEqual(await connection.rows('SELECT code FROM kilns'), [{ code: 'K77' }]);
        for (const table of ['potters', 'firings', 'firings_helpers'])
          assert.deepEqual(await connection.rows(`SELECT * FROM ${table}`), [], table);
        assert.equal(await connection.inTransaction(), false);
      });

      test('tables that hold made-up records are probed as they are', async () => {
        const { handle, connection } = engine;
        const filled = fillSchema(studio, { count: 20, seed: 3, words: englishWords() });
        const statements = await recordStatements(filled, connection.engine, studio);
        for (const statement of statements) await connection.run(statement);
        const layers = { table: layerOf[connection.engine]({ handle, compiled: true }) };
        const beside = await rowsBeside(layers, surroundings);
        assert.equal(beside.get('firing')?.length, 20);
        const cases = caseSetsFor(studio, studio, beside).flatMap((one) => one.cases);
        const answered = await askAll(cases, layers, surroundings);
        const { mismatches, setupFaults } = summarise(answered, layers, studio, ledgerOf(studio));
        assert.deepEqual([mismatches, setupFaults], [[], []]);
        const left = await connection.rows('SELECT tag FROM firings');
        assert.equal(left.length, 20);
        for (const table of ['firings_helpers', 'firings', 'potters']) await connection.run(`DELETE FROM ${table}`);
        await connection.run("DELETE FROM kilns WHERE code <> 'K77'");
      });

      test('a table or a column that is not there is told, with the ruleset that it is for', async () => {
        const { handle, connection } = engine;
        await connection.run('ALTER TABLE firings_helpers RENAME TO elsewhere');
        const gone = await problemOf(layerOf[connection.engine]({ handle, compiled: true }));
        await connection.run('ALTER TABLE elsewhere RENAME TO firings_helpers');
        assert.match(gone?.message ?? '', /there is no table "firings_helpers" for firing\.helpers/);
        await connection.run('ALTER TABLE kilns RENAME COLUMN hottest TO heat');
        const renamed = await problemOf(layerOf[connection.engine]({ handle, compiled: true }));
        await connection.run('ALTER TABLE kilns RENAME COLUMN heat TO hottest');
        assert.match(renamed?.message ?? '', /the table "kilns" has no column "hottest" for kiln\.hottest/);
      });
    });
  }
});

test('a connection to SQLite is taken as it is: what foreign keys hold is refused only where they are on', async () => {
  for (const isOn of [true, false]) {
    const engine = await engineWith('sqlite in WASM', studio);
    await engine.connection.run(`PRAGMA foreign_keys = ${isOn ? 'ON' : 'OFF'}`);
    const layers = { table: sqliteLayer({ handle: engine.handle, compiled: true }) };
    const cases = casesFor(modelIn(studio, 'firing'), studio);
    const { mismatches } = summarise(await askAll(cases, layers, surroundings), layers, studio, ledgerOf(studio));
    const rules = [...new Set(mismatches.map(({ rule }) => rule))].sort();
    assert.deepEqual(rules, isOn ? [] : ['firing.kiln.reference', 'firing.potter.reference']);
    await engine.close();
  }
});

describe('addresses', () => {
  test('a variable of the environment that is not set is told by its name', async () => {
    const url = '$' + '{ECHO_RULE_NO_SUCH_VARIABLE}';
    assert.deepEqual((await problemOf(postgresqlLayer({ url })))?.code, 'variable_missing');
    assert.deepEqual((await problemOf(mariadbLayer({})))?.code, 'address_missing');
  });

  test('a database that does not answer is reported with its address, and without its password', async () => {
    for (const [layer, scheme] of [
      [postgresqlLayer, 'postgresql'],
      [mariadbLayer, 'mysql'],
    ] as const) {
      const problem = await problemOf(layer({ url: `${scheme}://ines:clay-and-ash@127.0.0.1:1/studio` }));
      assert.equal(problem?.code, 'layer_unreachable');
      assert.match(problem?.message ?? '', /127\.0\.0\.1:1/);
      assert.doesNotMatch(problem?.message ?? '', /clay-and-ash/);
    }
  });

  test('a file of SQLite is read into memory, and stays as it was', async () => {
    const database = new (await initSqlJs()).Database();
    database.exec(targets.sqlite.emit(studio)[0]?.text ?? '');
    const { folder, remove } = temporaryFolder({});
    const file = join(folder, 'studio.db');
    writeFileSync(file, database.export());
    const before = readFileSync(file);
    const layers = { file: sqliteLayer({ url: 'file:studio.db', compiled: true }) };
    const cases = casesFor(modelIn(studio, 'kiln'), studio);
    const answered = await askAll(cases, layers, { schema: studio, folder, output: folder });
    assert.deepEqual(summarise(answered, layers, studio, ledgerOf(studio)).mismatches, []);
    assert.deepEqual(readFileSync(file), before);
    before[18] = 2;
    writeFileSync(file, before);
    const logged = await sqliteLayer({ url: file }).open({ schema: studio, folder, output: folder }).catch(String);
    assert.match(String(logged), /write-ahead log/);
    remove();
    const gone = await sqliteLayer({ url: file }).open({ schema: studio, folder, output: folder }).catch(String);
    assert.match(String(gone), /there is no such file/);
  });

  test('a table that sees a case only through its rows says nothing of what has none', async () => {
    const firing = modelIn(studio, 'firing');
    const layer = await sqliteLayer({ handle: (await engineWith('sqlite in WASM', studio)).handle }).open(surroundings);
    const [one] = casesFor(firing, studio).filter(({ wire }) => wire === 'row');
    assert.ok(one !== undefined, 'a case');
    const answers = [];
    for await (const [, answer] of layer.answer([{ ...one, input: { ...(one.input as object), helpers: 'Ewa' } }]))
      answers.push(answer);
    assert.deepEqual(
      answers.map((answer) => Object.keys(answer)),
      [['notApplicable']],
    );
  });
});
