import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import { integer, reference, ruleset, text } from '../../src/index.js';
import { type Layer, type OtherNames, postgresqlLayer, sqliteLayer } from '../../src/layers/index.js';
import { temporaryFolder } from '../fixtures/project.js';
import { studio } from '../fixtures/schema.js';

const kiln = ruleset('kiln', {
  key: 'code',
  fields: { code: text({ maxLength: 3 }), hottest: integer({ min: 1, max: 9 }) },
});
const firing = ruleset('firing', { key: 'tag', fields: { tag: text({ maxLength: 4 }), kiln: reference(kiln) } });
const schema = schemaOf([firing, kiln]);

/** Tables by hand, with one oddity each; what is odd is seen, and nothing else. */
const text3 = (column: string, length: number) =>
  `${column} TEXT NOT NULL CHECK (length(${column}) <= ${length}) CHECK (instr(${column}, char(0)) = 0 AND instr(${column}, char(10)) = 0 AND instr(${column}, char(13)) = 0
    AND ${column} NOT GLOB '*' || char(65533) || '*' AND ${column} <> '' AND ${column} = trim(${column}, char(9, 10, 11, 12, 13, 32, 160, 8195, 12288, 65279)))`;
const sqliteTables = (reference: string) => `
  CREATE TABLE kiln (${text3('code', 3)} PRIMARY KEY, hottest INT NOT NULL CHECK (hottest BETWEEN 1 AND 9)) STRICT;
  CREATE TABLE firing (${text3('tag', 4)} PRIMARY KEY, ${text3('kiln', 3)} ${reference}) STRICT;`;

const table: readonly (readonly [what: string, sql: string, expected: readonly string[]])[] = [
  ['nothing odd', sqliteTables('REFERENCES kiln'), []],
  ['a deferred foreign key is judged all the same', sqliteTables('REFERENCES kiln DEFERRABLE INITIALLY DEFERRED'), []],
  ['no foreign key', sqliteTables(''), ['firing.kiln.reference verdict']],
  [
    'a trigger that lets nothing be stored and reports success',
    `${sqliteTables('REFERENCES kiln')}
     CREATE TRIGGER quiet BEFORE INSERT ON kiln WHEN NEW.hottest = 9 BEGIN SELECT RAISE(IGNORE); END;`,
    ['kiln.hottest.max altered'],
  ],
  [
    'a trigger that refuses after the row was stored, and leaves it there',
    `${sqliteTables('REFERENCES kiln').replace('CHECK (hottest BETWEEN 1 AND 9)', 'CHECK (hottest > 0)')}
     CREATE TRIGGER late AFTER INSERT ON kiln WHEN NEW.hottest > 9 BEGIN SELECT RAISE(FAIL, 'kiln_hottest_max'); END;`,
    ['kiln.hottest.max residue'],
  ],
  [
    'a trigger that changes what is stored',
    `${sqliteTables('REFERENCES kiln')}
     CREATE TRIGGER louder AFTER INSERT ON kiln WHEN NEW.hottest = 1 BEGIN UPDATE kiln SET hottest = 2 WHERE code = NEW.code; END;`,
    ['kiln.hottest.min altered'],
  ],
  [
    'a trigger over a table that is not there: one line for every insert, one for the rows before them',
    `${sqliteTables('REFERENCES kiln')}
     CREATE TRIGGER lost AFTER INSERT ON firing BEGIN INSERT INTO nowhere VALUES (1); END;`,
    ['firing.kiln.maxLength breakdown', 'firing.tag.unique breakdown'],
  ],
];

async function mismatches(layer: Layer, sql: string): Promise<readonly string[]> {
  const { folder, remove } = temporaryFolder({ 'tables.sql': sql });
  const layers = { table: layer };
  const cases = schema.flatMap((model) => casesFor(model, schema));
  const answered = await askAll(cases, layers, { schema, folder, output: folder });
  remove();
  return summarise(answered, layers, schema, ledgerOf(schema)).mismatches.map(({ rule, kind }) => `${rule} ${kind}`);
}

describe('tables that were made by hand', () => {
  for (const [what, sql, expected] of table) {
    test(`SQLite: ${what}`, async () =>
      assert.deepEqual(
        await mismatches(sqliteLayer({ sql: 'tables.sql', tolerates: ['typeConversion'] }), sql),
        expected,
      ));
  }

  test('PostgreSQL: a deferred key, a trigger that stores nothing, one that raises, and unnamed checks', async () => {
    const spaces = "E'\\t\\n\\u000b\\f\\r \\u00a0\\u2003\\u3000\\ufeff'";
    const checks = (column: string, length: number) =>
      `${column} text NOT NULL CHECK (char_length(${column}) <= ${length}) CHECK (${column} !~ E'[\\n\\r\\uFFFD]')
       CHECK (${column} <> '' AND ${column} = btrim(${column}, ${spaces}))`;
    const sql = `
      CREATE TABLE kiln (${checks('code', 3)}, hottest int NOT NULL CHECK (hottest > 0), UNIQUE (code));
      CREATE TABLE firing (${checks('tag', 4)} PRIMARY KEY,
        ${checks('kiln', 3)} REFERENCES kiln (code) DEFERRABLE INITIALLY DEFERRED);
      CREATE FUNCTION odd() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
        IF NEW.hottest > 9 THEN RAISE EXCEPTION 'too hot'; END IF;
        IF NEW.hottest = 1 THEN RETURN NULL; END IF;
        RETURN NEW;
      END $$;
      CREATE TRIGGER odd BEFORE INSERT ON kiln FOR EACH ROW EXECUTE FUNCTION odd();`;
    assert.deepEqual(await mismatches(postgresqlLayer({ sql: 'tables.sql', tolerates: ['typeConversion'] }), sql), [
      'kiln.hottest.min altered',
    ]);
  });
});

describe('tables that call things otherwise than declared', () => {
  const renamed = (text: string) =>
    Object.entries({
      firings_helpers: 'booking_helpers',
      firing_tag: 'booking',
      firings: 'bookings',
      position: 'place',
      item: 'helper',
      load_on: 'load_date',
      shelf_bay: 'bay',
      kilns: 'ovens',
      code: 'oven_code',
    }).reduce((sql, [from, to]) => sql.replace(new RegExp(`\\b${from}\\b`, 'g'), to), text);
  const names: OtherNames = {
    firing: {
      table: 'bookings',
      columns: { loadOn: 'load_date', 'shelf.bay': 'bay', 'helpers[]': 'helper' },
      lists: { helpers: { table: 'booking_helpers', owner: 'booking', position: 'place' } },
    },
    kiln: { table: 'ovens', columns: { code: 'oven_code' } },
  };
  const own = studio.filter(({ ruleset: name }) => name === 'firing');
  const ofFiring = own.flatMap((model) => casesFor(model, studio));
  const probed = async (layer: Layer, engine: string) => {
    const text = readFileSync(`examples/layers-by-hand/mended/tables.${engine}.sql`, 'utf8');
    const { folder, remove } = temporaryFolder({ 'tables.sql': renamed(text) });
    try {
      const answered = await askAll(ofFiring, { table: layer }, { schema: studio, folder, output: folder });
      return summarise(answered, { table: layer }, own, ledgerOf(studio));
    } finally {
      remove();
    }
  };
  const options = { sql: 'tables.sql', rulesets: ['firing'], names, compiled: true };

  for (const [engine, layer] of [
    ['sqlite', sqliteLayer(options)],
    ['postgresql', postgresqlLayer(options)],
  ] as const)
    test(`${engine}: by a mapping they are probed as any other`, async () => {
      const { mismatches, answers } = await probed(layer, engine);
      assert.deepEqual(mismatches, []);
      assert.ok(answers > 1_000, `${answers} answers`);
    });

  test('without the mapping, or with one that is about nothing, it is told what is missing', async () => {
    const reason = (problem: RegExp) => (error: { readonly problems: readonly { readonly message: string }[] }) =>
      problem.test(error.problems[0]?.message ?? '');
    await assert.rejects(probed(sqliteLayer({ ...options, names: {} }), 'sqlite'), reason(/no table "firings"/));
    const strange = { firing: { columns: { loadDay: 'load_date' } } };
    await assert.rejects(
      probed(sqliteLayer({ ...options, names: strange }), 'sqlite'),
      reason(/firing has no field loadDay/),
    );
    await assert.rejects(probed(sqliteLayer({ ...options, names: { oven: {} } }), 'sqlite'), reason(/no ruleset oven/));
  });
});
