import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import { date, dateTime, decimal, list, reference, ruleset, text, time, timestamp } from '../../src/index.js';
import { mariadbLayer, postgresqlLayer, sqliteLayer } from '../../src/layers/index.js';
import { findRecord, insertRecord, listRecords, referenceOptions, updateRecord } from '../../src/server/index.js';
import { type Engine, type EngineTested, engineWith } from '../fixtures/engines.js';

/** A key that is a day, moments of every kind, days in a list of their own. */
const tour = ruleset('tour', {
  key: 'on',
  called: 'words',
  fields: {
    on: date(),
    at: timestamp({ fraction: 3 }),
    local: dateTime(),
    opens: time({ fraction: 2 }),
    fee: decimal({ precision: 8, scale: 2 }),
    days: list(date(), { maxItems: 3 }),
    words: text({ lines: 'many', maxLength: 40 }),
    changed: timestamp({ generated: 'updated' }),
  },
});
const guest = ruleset('guest', { key: 'code', fields: { code: text({ maxLength: 4 }), tour: reference(tour) } });
const rulesets = [tour, guest];
const schema = schemaOf(rulesets);
const row = {
  on: '2026-03-02',
  at: '1890-01-02T03:04:05.120Z',
  local: '2026-11-12T10:00:00',
  opens: '10:00:00.50',
  fee: 1.5,
  days: ['2026-05-04', '0001-01-01'],
  words: `a\\b"c'd\\' é🏺\nnext`,
};
/** Settings that change how values are written and read. */
const settings: { readonly [name in EngineTested]?: readonly string[] } = {
  postgresql: [
    "SET DateStyle = 'German'",
    "SET DateStyle = 'SQL, DMY'; SET TIME ZONE 'Asia/Kolkata'",
    "SET DateStyle = 'Postgres, MDY'; SET TIME ZONE 'America/New_York'",
    "SET standard_conforming_strings = off; SET array_nulls = off; SET quote_all_identifiers = on; SET IntervalStyle = 'sql_standard'",
  ],
  'postgresql in WASM': ["SET DateStyle = 'SQL, DMY'; SET TIME ZONE 'Asia/Kolkata'"],
  mariadb: [
    "SET time_zone = '+05:30'",
    "SET sql_mode = 'STRICT_TRANS_TABLES,NO_BACKSLASH_ESCAPES'",
    "SET sql_mode = 'STRICT_TRANS_TABLES,ANSI,PAD_CHAR_TO_FULL_LENGTH'",
  ],
};
const layerOf = { postgresql: postgresqlLayer, mariadb: mariadbLayer, sqlite: sqliteLayer };
const settingsQuery = {
  postgresql: "SELECT string_agg(name || setting, ' ' ORDER BY name) AS all FROM pg_settings WHERE context = 'user'",
  mariadb: 'SELECT @@time_zone, @@sql_mode, @@character_set_client, @@character_set_results, @@collation_connection',
  sqlite: 'SELECT 1',
};

for (const [name, all] of Object.entries(settings)) {
  describe(`sessions of ${name} with settings of their own`, () => {
    let engine: Engine;
    before(async () => {
      engine = await engineWith(name as EngineTested, schema);
    });
    after(() => engine.close());
    for (const setting of all)
      test(setting, async () => {
        const { handle, connection } = engine;
        await connection.run(setting);
        const inserted = await insertRecord(handle, tour, row, { rulesets });
        assert.ok(inserted.ok, JSON.stringify(inserted));
        const { changed, ...stored } = inserted.value;
        assert.match(String(changed), /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ$/);
        assert.ok(Math.abs(Date.parse(String(changed)) - Date.now()) < 600_000, `${changed} is now`);
        assert.deepEqual(stored, row);
        assert.deepEqual(await findRecord(handle, tour, row.on, { rulesets }), inserted.value);
        assert.deepEqual(await listRecords(handle, tour, { rulesets }), [inserted.value]);
        assert.deepEqual(await updateRecord(handle, tour, row.on, row, { rulesets }), inserted, 'nothing has changed');
        assert.deepEqual((await referenceOptions(handle, guest, rulesets)).tour, [[row.on, row.words]]);
        await connection.run('DELETE FROM tour');
        const before = await connection.rows(settingsQuery[connection.engine]);
        const layers = { table: layerOf[connection.engine]({ handle, compiled: true }) };
        const cases = schema.flatMap((model) => casesFor(model, schema));
        const answered = await askAll(cases, layers, { schema, folder: '.', output: '.' });
        const { mismatches, answers } = summarise(answered, layers, schema, ledgerOf(schema));
        assert.deepEqual(mismatches, []);
        assert.ok(answers > 100, `${answers} answers`);
        assert.deepEqual(
          await connection.rows(settingsQuery[connection.engine]),
          before,
          'the settings are as they were',
        );
      });
  });
}
