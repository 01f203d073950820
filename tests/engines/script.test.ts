import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import { type Schema, schemaOf } from '../../src/core/declare/index.js';
import { tableTargets } from '../../src/core/targets/index.js';
import {
  boolean,
  choice,
  date,
  dateTime,
  decimal,
  integer,
  ip,
  list,
  record,
  reference,
  ruleset,
  text,
  time,
  timestamp,
  unique,
  uuid,
} from '../../src/index.js';
import { insertRecord } from '../../src/server/index.js';
import { type Engine, engineNames, engineWith } from '../fixtures/engines.js';

const member = ruleset('member', {
  key: 'handle',
  fields: { handle: text({ maxLength: 12, label: "The member's short name" }) },
});
/** Lists with tables of their own, a record with one, a list within a list, references, long text and a native enum. */
const batch = ruleset('batch', {
  table: 'batches',
  label: 'Batch of glaze',
  key: 'code',
  fields: {
    code: text({ pattern: /B[0-9]{2}/, label: 'Batch \\ code' }),
    kind: choice({ ash: 'Ash', 'dad\'s "own"': 'Own' }, { keptAs: 'enum' }),
    recipe: text({ lines: 'many', maxLength: 9000 }),
    place: record(
      { shelf: text({ maxLength: 4 }), row: integer({ optional: true }) },
      { optional: true, keptAs: 'table' },
    ),
    parts: list(record({ name: text({ maxLength: 9 }), grams: list(integer({ min: 1 }), { maxItems: 2 }) }), {
      key: 'name',
      maxItems: 3,
    }),
    tasters: list(reference(member)),
    tags: list(text({ maxLength: 5 }), { keptAs: 'json', maxItems: 2 }),
    changed: timestamp({ generated: 'updated', fraction: 3 }),
  },
  rules: (it) => ({ recipeOnce: unique(it.recipe) }),
  indexes: (it) => ({ byRecipe: [it.recipe] }),
});
const schema = schemaOf([batch, member]);
const first = {
  code: 'B01',
  kind: 'dad\'s "own"',
  recipe: 'Half ash,\nhalf clay',
  place: { shelf: 'A', row: null },
  parts: [
    { name: 'ash', grams: [3, 4] },
    { name: 'clay', grams: [] },
  ],
  tasters: ['ines', 'oke'],
  tags: ['new'],
};

/** Text that no index entry holds, beside a value of each kind that a column may have. */
const notes = ruleset('note', {
  fields: {
    words: text({ maxLength: 2000 }),
    day: date(),
    at: dateTime(),
    instant: timestamp({ fraction: 3 }),
    hour: time(),
    count: integer(),
    price: decimal({ precision: 8, scale: 2 }),
    code: uuid(),
    address: ip(),
    done: boolean(),
    kind: choice({ ash: 'Ash', slip: 'Slip' }, { keptAs: 'enum' }),
    rank: choice([
      [1, 'One'],
      [2, 'Two'],
    ]),
    copies: list(text({ maxLength: 2000 }), { distinct: true }),
  },
  rules: (it) => ({
    dayOnce: unique(it.words, it.day),
    atOnce: unique(it.words, it.at),
    instantOnce: unique(it.words, it.instant),
    hourOnce: unique(it.words, it.hour),
    countOnce: unique(it.words, it.count),
    priceOnce: unique(it.words, it.price),
    codeOnce: unique(it.words, it.code),
    addressOnce: unique(it.words, it.address),
    doneOnce: unique(it.words, it.done),
    kindOnce: unique(it.words, it.kind),
    rankOnce: unique(it.words, it.rank),
  }),
});
const note = {
  words: 'Half ash',
  day: '2026-03-02',
  at: '2026-03-02T09:00:00',
  instant: '2026-03-02T09:00:00.125Z',
  hour: '09:00:00',
  count: 12,
  price: 1.5,
  code: '018f4e2a-7c1b-7d3e-9a55-0123456789ab',
  address: '192.0.2.1',
  done: true,
  kind: 'ash',
  rank: 1,
  copies: ['one'],
};

for (const name of engineNames) {
  describe(`the script of tables in ${name}`, () => {
    let engine: Engine;
    before(async () => {
      engine = await engineWith(name, schema);
      for (const handle of ['ines', 'oke']) await insertRecord(engine.handle, member, { handle });
    });
    after(() => engine.close());

    const made = (of: Schema = schema) => tableTargets[engine.connection.engine].emit(of)[0]?.text ?? '';
    const refused = async (record: object) => {
      const written = await insertRecord(engine.handle, batch, { ...first, ...record }, { rulesets: [member] });
      return written.ok ? ['it went in'] : written.violations.map(({ rule, pointer }) => `${rule} ${pointer}`);
    };

    test('a record with its lists, and lists within them, comes back as it was', async () => {
      const written = await insertRecord(engine.handle, batch, first, { rulesets: [member] });
      assert.ok(written.ok, JSON.stringify(written));
      const { changed, ...stored } = written.value;
      assert.deepEqual(stored, first);
      assert.match(String(changed), /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d\.\d{3}Z$/);
    });

    test('what is in the tables of lists and records is refused by the same rules', async () => {
      const other = { code: 'B02', recipe: 'Another' };
      const parts = [{ name: 'ash', grams: [] }];
      assert.deepEqual(await refused({ ...other, parts: [...parts, { name: 'a longer name', grams: [] }] }), [
        'batch.parts[].name.maxLength /parts/1/name',
      ]);
      assert.deepEqual(await refused({ ...other, parts: [...parts, ...parts] }), [
        'batch.parts.distinct /parts/1/name',
      ]);
      assert.deepEqual(await refused({ ...other, parts: [{ name: 'ash', grams: [1, 0] }] }), [
        'batch.parts[].grams[].min /parts/0/grams/1',
      ]);
      assert.deepEqual(await refused({ ...other, parts: [{ name: 'ash', grams: [1, 2, 3] }] }), [
        'batch.parts[].grams.maxItems /parts/0/grams',
      ]);
      assert.deepEqual(await refused({ ...other, place: { shelf: null, row: 1 } }), [
        'batch.place.shelf.required /place/shelf',
      ]);
      assert.deepEqual(await refused({ ...other, tasters: ['ines', 'nobody'] }), [
        'batch.tasters[].reference /tasters/1',
      ]);
      assert.deepEqual(await refused({ ...other, tags: ['a', 'b', 'c'] }), ['batch.tags.maxItems /tags']);
    });

    test('a list of references names each once, unless told', async () => {
      assert.deepEqual(await refused({ code: 'B02', recipe: 'Another', tasters: ['ines', 'ines'] }), [
        'batch.tasters.distinct /tasters/1',
      ]);
    });

    test('text longer than an index entry is unique all the same, and never an error of the engine', async () => {
      const long = Array.from({ length: 8000 }, (_, at) => String.fromCodePoint(0x4e00 + ((at * 7919) % 20_000))).join(
        '',
      );
      assert.deepEqual(await refused({ code: 'B03', recipe: long }), ['it went in']);
      assert.deepEqual(await refused({ code: 'B04', recipe: long }), ['batch.recipeOnce /recipe']);
      assert.deepEqual(await refused({ code: 'B05', recipe: `${long}x` }), ['it went in']);
    });

    test('the time of the last change changes with every change', async () => {
      const changed = async () =>
        String((await engine.connection.rows("SELECT changed FROM batches WHERE code = 'B01'"))[0]?.changed);
      const then = await changed();
      await new Promise((resolve) => setTimeout(resolve, 20));
      await engine.connection.run("UPDATE batches SET recipe = 'Less ash' WHERE code = 'B01'");
      assert.notEqual(await changed(), then);
    });

    test('a record that goes takes its lists along', async () => {
      await engine.connection.run("DELETE FROM batches WHERE code = 'B01'");
      for (const table of ['batches_parts', 'batches_parts_grams', 'batches_place', 'batches_tasters']) {
        const rows = await engine.connection.rows(`SELECT batch_code FROM ${table}`);
        assert.ok(rows.length > 0 && rows.every(({ batch_code }) => batch_code !== 'B01'), table);
      }
    });

    test('run again over its own tables it changes nothing', async () => {
      await engine.connection.run(made());
      assert.equal((await engine.connection.rows('SELECT code FROM batches')).length, 2);
    });

    test('run over tables that differ it stops, and says how', async () => {
      const other = ruleset('member', {
        key: 'handle',
        fields: { handle: text({ maxLength: 12 }), since: integer({ optional: true }) },
      });
      const tighter = ruleset('member', { key: 'handle', fields: { handle: text({ maxLength: 11 }) } });
      await assert.rejects(
        engine.connection.run(made(schemaOf([batch, other]))),
        /member\.since is not there|member\.since/,
      );
      await assert.rejects(engine.connection.run(made(schemaOf([batch, tighter]))), /member was made from other rules/);
      await engine.connection.run('ALTER TABLE member ADD COLUMN extra integer');
      await assert.rejects(engine.connection.run(made()), /member\.extra is int\w*[^;]*, declared not at all/i);
      await engine.connection.run('ALTER TABLE member DROP COLUMN extra');
      await engine.connection.run(made());
    });

    test('long text is unique together with a value of any kind', async () => {
      await engine.connection.run(made(schemaOf([notes])));
      const insert = (record: object) => insertRecord(engine.handle, notes, record);
      assert.ok((await insert(note)).ok, 'the first');
      assert.ok((await insert({ ...note, words: 'Half clay' })).ok, 'another text');
      const repeated = await insert(note);
      assert.equal(repeated.ok ? 0 : repeated.violations.length, 11);
    });

    test('tables that refer to each other in a circle can be dropped, whatever a deletion takes with it', async () => {
      const [oven, tray] = [
        ruleset('oven', {
          key: 'id',
          fields: {
            id: integer({ generated: 'identity' }),
            next: reference('oven', integer(), { optional: true, onDelete: 'cascade' }),
            first: reference('tray', integer(), { optional: true, onDelete: 'clear' }),
          },
        }),
        ruleset('tray', {
          key: 'id',
          fields: {
            id: integer({ generated: 'identity' }),
            within: reference('oven', integer(), { optional: true, onDelete: 'cascade' }),
          },
        }),
      ];
      const [text = '', drop = ''] = tableTargets[engine.connection.engine]
        .emit(schemaOf([oven, tray]))
        .map((file) => file.text);
      await engine.connection.run(text);
      assert.ok((await insertRecord(engine.handle, oven, {})).ok, 'one record');
      await engine.connection.run(drop);
      await assert.rejects(engine.connection.run('SELECT 1 FROM oven'));
    });

    test('what it made can be dropped again, and made again', async () => {
      const dropped = tableTargets[engine.connection.engine].emit(schema)[1]?.text ?? '';
      await engine.connection.run(dropped);
      await assert.rejects(engine.connection.run('SELECT 1 FROM batches'));
      await engine.connection.run(made());
      assert.deepEqual(await engine.connection.rows('SELECT code FROM batches'), []);
    });
  });
}

describe('what the targets say before anything is made', () => {
  const of = (ruleset: Parameters<typeof schemaOf>[0][number], engine: keyof typeof tableTargets) =>
    tableTargets[engine].problems(schemaOf([ruleset])).map(({ code }) => code);

  test('a key that no index entry holds, a name that the engine refuses, columns that meet', () => {
    const longKey = ruleset('long', { key: 'code', fields: { code: text({ maxLength: 5000 }) } });
    assert.deepEqual(of(longKey, 'postgresql'), ['key_too_long']);
    assert.deepEqual(of(longKey, 'mariadb'), ['key_too_long']);
    assert.deepEqual(of(longKey, 'sqlite'), []);
    const pot = ruleset('pot', { fields: { name: text({ column: '🏺' }) } });
    assert.deepEqual(of(pot, 'mariadb'), ['name_unfit']);
    assert.deepEqual(of(pot, 'postgresql'), []);
    const meets = ruleset('kiln', {
      key: 'code',
      fields: { code: text({ maxLength: 3 }), steps: list(record({ position: integer() })) },
    });
    assert.deepEqual(of(meets, 'sqlite'), ['names_meet']);
  });

  test('labels are comments, column types follow ranges and lengths, names are cut with a hash', () => {
    const [postgresql, mariadb, sqlite] = (['postgresql', 'mariadb', 'sqlite'] as const).map(
      (name) => tableTargets[name].emit(schema)[0]?.text ?? '',
    );
    assert.match(postgresql ?? '', /COMMENT ON COLUMN member\.handle IS 'The member''s short name';/);
    assert.match(postgresql ?? '', /CREATE TYPE batches_kind AS ENUM \('ash', 'dad''s "own"'\)/);
    assert.match(postgresql ?? '', /batch_recipe_once EXCLUDE USING hash/);
    assert.match(mariadb ?? '', /`handle` varchar\(13\) [^,]* COMMENT 'The member''s short name',/);
    assert.match(mariadb ?? '', /`recipe` text /);
    assert.match(sqlite ?? '', /handle TEXT NOT NULL, -- The member's short name/);
    const many = Object.fromEntries(Array.from({ length: 40 }, (_, at) => [`f${at}`, text({ maxLength: 700 })]));
    const wide = tableTargets.mariadb.emit(schemaOf([ruleset('wide', { fields: many })]))[0]?.text ?? '';
    assert.ok(
      /varchar\(701\)/.test(wide) && / text CHARACTER SET/.test(wide),
      'the row has room for some varchars only',
    );
  });
});
