import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { type Schema, schemaOf } from '../../src/core/declare/index.js';
import { decide } from '../../src/core/meaning/index.js';
import type { Case, Row } from '../../src/core/model/index.js';
import { ledgerOf, tableTargets } from '../../src/core/targets/index.js';
import { integer, ruleset, text } from '../../src/index.js';
import { mariadbLayer, postgresqlLayer, sqliteLayer } from '../../src/layers/index.js';
import { type Engine, type EngineTested, engineNames, engineWith } from '../fixtures/engines.js';
import { type Random, randomFrom } from '../fixtures/random.js';
import { likely, randomRecord } from '../fixtures/random-records.js';
import { rulesetOf, rulesetSource, sourceText } from '../fixtures/random-rulesets.js';
import { soak } from '../fixtures/records.js';
import { strictly } from '../fixtures/schema.js';

const RULESETS = soak ? 100 : 8;
const ROWS = soak ? 200 : 40;
const clock = { instant: '2026-03-02T20:00:00Z', zone: 'UTC' };

/** What random references lead to, and what is stored of it. */
const kiln = ruleset('kiln', { key: 'code', fields: { code: text({ pattern: /K[0-9]{2}/ }) } });
const rack = ruleset('rack', { key: 'code', fields: { code: integer({ max: 40 }) } });
const stored: readonly { readonly ruleset: string; readonly row: Row }[] = [
  ...Array.from({ length: 100 }, (_, at) => ({ ruleset: 'kiln', row: { code: `K${String(at).padStart(2, '0')}` } })),
  ...Array.from({ length: 40 }, (_, at) => ({ ruleset: 'rack', row: { code: at + 1 } })),
];
const store = (of: string) => stored.filter((one) => one.ruleset === of).map(({ row }) => row);

/** Rows as a careful server hands them on, and rows that nobody checked. */
function rowsOf(model: Schema[number], random: Random): readonly Case[] {
  return Array.from({ length: ROWS }, (_, at): Case => {
    const wild = random.pick([0, 0, 0.02, 0.1, 0.3]);
    const verdict = decide(model, randomRecord(model.fields, random, 'json', 0), 'json', { clock });
    const isCareful = at % 2 === 0 && 'accepted' in verdict;
    const given = isCareful ? verdict.accepted : randomRecord(model.fields, random, 'row', wild);
    // A statement has columns and their values; what is no record has neither.
    const input = typeof given === 'object' && given !== null && !Array.isArray(given) ? given : {};
    return {
      id: `${model.ruleset}/random/${at}`,
      ruleset: model.ruleset,
      constraint: `${model.ruleset}.type`,
      criterion: 'random',
      reason: isCareful ? 'a checked record' : 'a row that nobody checked',
      does: 'insert',
      on: 'server',
      existing: null,
      wire: 'row',
      clock,
      before: stored,
      input,
      expected: decide(model, input, 'row', { clock, store }),
    };
  });
}

const layerOf = { postgresql: postgresqlLayer, mariadb: mariadbLayer, sqlite: sqliteLayer };

describe(`${RULESETS} random rulesets in every engine, ${ROWS} random rows each`, () => {
  const running = new Map<EngineTested, Engine>();
  before(async () => {
    for (const name of engineNames) running.set(name, await engineWith(name, []));
  });
  after(async () => {
    for (const engine of running.values()) await engine.close();
  });

  for (const name of engineNames) {
    test(`${name}: the verdict is the meaning's, or the ledger tells of it`, async () => {
      const engine = running.get(name);
      assert.ok(engine !== undefined, name);
      const { connection, handle } = engine;
      const target = tableTargets[connection.engine];
      const seen = { accepted: 0, refused: 0, known: 0 };
      for (let seed = 0; seed < RULESETS; seed += 1) {
        const random = randomFrom(seed);
        const source = likely(rulesetSource(random));
        const plain = schemaOf([rulesetOf(source), kiln, rack]);
        const schema = seed % 2 === 0 ? plain : strictly(plain);
        assert.deepEqual(target.problems(schema), [], sourceText(source));
        const [made = '', dropped = ''] = target.emit(schema).map(({ text }) => text);
        await connection.run(made).catch((error) => assert.fail(`${error.message} of ${sourceText(source)}`));
        const layers = { [name]: layerOf[connection.engine]({ handle, compiled: true }) };
        const cases = schema.filter(({ ruleset: of }) => of === 'random').flatMap((model) => rowsOf(model, random));
        const answered = await askAll(cases, layers, { schema, folder: '.', output: '.' });
        const { mismatches, known } = summarise(answered, layers, schema, ledgerOf(schema));
        await connection.run(dropped);
        const [first] = mismatches;
        if (first !== undefined) {
          const { rule, kind, reason, input, expected, observed } = first;
          assert.fail(
            `${rule} ${kind} ${reason}: ${JSON.stringify(input)}; expected ${JSON.stringify(expected)}, observed ${JSON.stringify(observed)}, seed ${seed}, of ${sourceText(source)}`,
          );
        }
        seen.known += known.length;
        for (const { expected } of cases) seen['accepted' in expected ? 'accepted' : 'refused'] += 1;
      }
      assert.ok(seen.accepted > (RULESETS * ROWS) / 50, `${seen.accepted} rows are valid`);
      assert.ok(seen.refused > (RULESETS * ROWS) / 10, `${seen.refused} rows are not`);
      assert.ok(seen.known > 0, 'the ledger told of some differences');
    });
  }
});
