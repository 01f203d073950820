import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import { integer, ruleset, text, unique } from '../../src/index.js';
import { mariadbLayer, postgresqlLayer, sqliteLayer } from '../../src/layers/index.js';
import { engineNames, engineWith } from '../fixtures/engines.js';

const stall = ruleset('stall', {
  key: 'code',
  fields: {
    code: text({ maxLength: 4 }),
    street: text({ maxLength: 12 }),
    number: integer({ min: 1, max: 90 }),
    width: integer({ min: 1, max: 9 }),
    depth: integer({ min: 1, max: 9 }),
  },
  rules: (it) => ({ once: unique(it.street, it.number), square: it.depth.isAtMost(it.width) }),
});
const schema = schemaOf([stall]);
const cases = schema.flatMap((model) => casesFor(model, schema));
const layerOf = { postgresql: postgresqlLayer, mariadb: mariadbLayer, sqlite: sqliteLayer };

/** The same constraints under names that say nothing. */
const renamed = (sql: string) => sql.replaceAll('stall_once', 'one_place').replaceAll('stall_square', 'shape_of_it');

describe('constraints under other names are put down to the rules that they hold', () => {
  for (const name of engineNames)
    test(name, async () => {
      const engine = await engineWith(name, schema, renamed);
      try {
        const layers = { table: layerOf[engine.connection.engine]({ handle: engine.handle, compiled: true }) };
        const answered = await askAll(cases, layers, { schema, folder: '.', output: '.' });
        const { mismatches } = summarise(answered, layers, schema, ledgerOf(schema));
        assert.deepEqual(mismatches, []);
        for (const rule of ['stall.once', 'stall.square']) {
          const blames = answered.flatMap(({ case: one, answer }) =>
            one.constraint === rule &&
            'refused' in answer &&
            'refused' in one.expected &&
            one.expected.refused.length === 1
              ? answer.refused.map((blame) => blame.rule)
              : [],
          );
          assert.deepEqual([...new Set(blames)], [rule], `${rule} is blamed`);
        }
      } finally {
        await engine.close();
      }
    });
});
