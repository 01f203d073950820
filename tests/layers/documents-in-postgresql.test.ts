import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import type { Client } from 'pg';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { type Schema, schemaOf } from '../../src/core/declare/index.js';
import { problemsOf } from '../../src/core/messages/index.js';
import { compileSchema } from '../../src/core/targets/index.js';
import { date, dateTime, decimal, integer, list, record, ruleset, text, unique } from '../../src/index.js';
import { type PostgresqlDocumentOptions, postgresqlDocumentLayer } from '../../src/layers/index.js';
import { temporaryFolder } from '../fixtures/project.js';
import { randomFrom } from '../fixtures/random.js';
import { likely } from '../fixtures/random-records.js';
import { rulesetOf, rulesetSource } from '../fixtures/random-rulesets.js';
import { soak } from '../fixtures/records.js';
import { modelIn, studio } from '../fixtures/schema.js';
import { connectPostgresql, type Scratch, scratchDatabase } from '../fixtures/servers.js';

/** So many random rulesets are tried; all of them have cases at each edge. */
const RULESETS = soak ? 30 : 2;

const referredTo = [
  ruleset('kiln', { key: 'code', fields: { code: text({ pattern: /K[0-9]{2}/ }) } }),
  ruleset('rack', { key: 'code', fields: { code: integer({ max: 40 }) } }),
];

function compiled(schema: Schema) {
  const { files, ledger } = compileSchema(schema, ['postgresql-documents']);
  const textOf = (name: string) => files.find(({ path }) => path.endsWith(`/${name}.sql`))?.text ?? '';
  return { files, ledger, tables: textOf('tables'), drops: textOf('drop-tables') };
}

/** Puts every case before the documents of a database, and tells who disagrees. */
async function probed(schema: Schema, asked: Schema, options: PostgresqlDocumentOptions, folder = '.') {
  const layers = { documents: postgresqlDocumentLayer(options) };
  const { ledger } = compiled(schema);
  const cases = asked.flatMap((model) => casesFor(model, schema));
  const answered = await askAll(cases, layers, { schema, folder, output: folder });
  return { ledger, ...summarise(answered, layers, asked, ledger) };
}

describe('documents in PostgreSQL', () => {
  let scratch: Scratch;
  let client: Client;
  before(async () => {
    scratch = await scratchDatabase('postgresql');
    client = await connectPostgresql(scratch);
  });
  after(async () => {
    await client.end();
    await scratch.remove();
  });
  const numberOf = async (sql: string) => Number((await client.query(sql)).rows[0].count);
  const ours = `SELECT (SELECT count(*) FROM pg_class WHERE relnamespace = 'public'::regnamespace)
    + (SELECT count(*) FROM pg_proc WHERE pronamespace = 'public'::regnamespace) AS count`;

  test('those of the studio are taken and refused as its rules say, as far as the ledger claims', async () => {
    const { tables, drops } = compiled(studio);
    await client.query(tables);
    const { mismatches, answers, ledger } = await probed(studio, studio, { url: scratch.url });
    assert.deepEqual(mismatches, []);
    assert.ok(answers > 2_000, `${answers} answers`);
    const absent = ledger.filter(({ fidelity }) => fidelity.is === 'absent').map(({ constraint }) => constraint);
    const said = absent.filter((id) => !/\.(?:limits|reference)$/.test(id));
    assert.deepEqual(said, [], 'all else is held');
    const left = await numberOf('SELECT count(*) FROM firings_documents');
    assert.equal(left, 0, 'nothing is left behind');
    await assert.rejects(client.query(tables), /already exists/, 'tables that are there are not passed over');
    await client.query(drops);
    assert.equal(await numberOf(ours), 0, 'what was made can be dropped');
  });

  test(`those of ${RULESETS} random rulesets, too`, async () => {
    let [found, answers] = [0, 0];
    for (let seed = 0; found < RULESETS; seed += 1) {
      const schema = schemaOf([rulesetOf(likely(rulesetSource(randomFrom(seed)))), ...referredTo]);
      const { tables, drops } = compiled(schema);
      await client.query(tables);
      const asked = schema.filter((model) => model.ruleset === 'random');
      const result = await probed(schema, asked, { url: scratch.url }).catch((error: unknown) => {
        if (problemsOf(error)?.some(({ code }) => code === 'no_base') !== true) throw error;
        return null;
      });
      await client.query(drops);
      if (result === null) continue;
      found += 1;
      answers += result.answers;
      assert.deepEqual(result.mismatches, [], `seed ${seed}`);
    }
    assert.equal(await numberOf(ours), 0);
    assert.ok(answers > 500 * RULESETS, `${answers} answers`);
  });

  const tray = ruleset('tray', {
    key: 'code',
    fields: {
      code: text({ maxLength: 4 }),
      owner: text({ maxLength: 12 }),
      madeOn: date({ min: '2020-02-29' }),
      firedAt: dateTime({ optional: true }),
      soldAt: dateTime({ optional: true }),
      weight: decimal({ precision: 6, scale: 2 }),
      dry: decimal({ precision: 8, scale: 3, optional: true }),
      marks: list(record({ sign: text({ maxLength: 2 }), depth: integer({ min: 1, max: 9 }) }), { maxItems: 3 }),
    },
    rules: (it) => ({
      oneIsDeep: it.marks.some((mark) => mark.depth.isMoreThan(3)),
      soldAfterFiring: it.soldAt.isAfter(it.firedAt),
      lighterDry: it.dry.isAtMost(it.weight),
      oneOfEachOwner: unique(it.owner).ignoringCase(),
    }),
  });

  test('entries are looked at by functions, values are compared, and folded texts are unique in their index', async () => {
    const schema = schemaOf([tray]);
    const { tables, drops, ledger } = compiled(schema);
    await client.query(tables);
    const { mismatches } = await probed(schema, schema, { url: scratch.url });
    assert.deepEqual(mismatches, []);
    for (const rule of [
      'oneIsDeep',
      'oneOfEachOwner',
      'marks[].depth.max',
      'madeOn.min',
      'soldAfterFiring',
      'lighterDry',
    ])
      assert.equal(ledger.find(({ constraint }) => constraint === `tray.${rule}`)?.fidelity.is, 'exact', rule);
    await client.query(drops);
  });

  test('a column by hand is found wanting where it is, by its own names', async () => {
    const schema = schemaOf([
      ruleset('pot', {
        key: 'code',
        fields: { code: text({ pattern: /P[0-9]/ }), height: integer({ min: 1, max: 9 }) },
      }),
    ]);
    const pots = (most: number) => `CREATE TABLE shelf (body jsonb NOT NULL
      CHECK (jsonb_typeof(body) = 'object' AND body ?& ARRAY['code', 'height'] AND body - 'code' - 'height' = '{}')
      CHECK (jsonb_typeof(body -> 'code') = 'string' AND body ->> 'code' ~ '^P[0-9]$')
      CHECK (jsonb_typeof(body -> 'height') = 'number' AND body ->> 'height' ~ '^[0-9]+$' AND (body ->> 'height')::numeric BETWEEN 1 AND ${most}));
      CREATE UNIQUE INDEX one_of_each ON shelf ((body ->> 'code'))`;
    const options = { url: scratch.url, tables: { pot: { table: 'shelf', column: 'body' } } };
    await client.query(pots(10));
    const { mismatches } = await probed(schema, schema, options);
    const verdicts = mismatches.filter(({ kind }) => kind === 'verdict').map(({ rule }) => rule);
    assert.deepEqual([...new Set(verdicts)], ['pot.height.max']);
    await client.query(`DROP TABLE shelf; ${pots(9)}`);
    const mended = await probed(schema, schema, options);
    assert.deepEqual(
      mended.mismatches.filter(({ kind }) => kind !== 'blame'),
      [],
    );
    await client.query('DROP TABLE shelf');
  });

  test('tables or a server that are not there are told', async () => {
    const ask = (options: PostgresqlDocumentOptions) => probed(studio, [modelIn(studio, 'kiln')], options);
    const isTold = (words: RegExp) => (error: unknown) => {
      const [first] = problemsOf(error) ?? [];
      return first?.code === 'layer_unreachable' && words.test(first.message);
    };
    await assert.rejects(ask({ url: scratch.url }), isTold(/kilns_documents/));
    await assert.rejects(ask({ url: 'postgresql://nobody@127.0.0.1:1/none' }), isTold(/ECONNREFUSED/));
  });

  test('without an address, the compiled tables are made in an engine in this process', async () => {
    const kiln = modelIn(studio, 'kiln');
    const { files } = compiled([kiln]);
    const { folder, remove } = temporaryFolder(Object.fromEntries(files.map(({ path, text: made }) => [path, made])));
    try {
      const { mismatches, answers } = await probed([kiln], [kiln], {}, folder);
      assert.deepEqual(mismatches, []);
      assert.ok(answers > 200, `${answers} answers`);
    } finally {
      remove();
    }
  });
});
