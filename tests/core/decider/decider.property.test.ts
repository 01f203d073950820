import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { casesFor } from '../../../src/core/cases/index.js';
import { decider } from '../../../src/core/decider/index.js';
import { type Schema, schemaOf } from '../../../src/core/declare/index.js';
import { decide } from '../../../src/core/meaning/index.js';
import { problemsOf } from '../../../src/core/messages/index.js';
import type { Case } from '../../../src/core/model/index.js';
import { integer, list, record, ruleset, text } from '../../../src/index.js';
import { randomFrom } from '../../fixtures/random.js';
import { likely } from '../../fixtures/random-records.js';
import { rulesetOf, rulesetSource } from '../../fixtures/random-rulesets.js';
import { soak } from '../../fixtures/records.js';
import { studio } from '../../fixtures/schema.js';

const RULESETS = soak ? 60 : 4;
const clocks = ['2026-03-02T09:00:00Z', '2027-03-02T09:00:00Z'].map((instant) => ({ instant }));

const referredTo = [
  ruleset('kiln', { key: 'code', fields: { code: text({ pattern: /K[0-9]{2}/ }) } }),
  ruleset('rack', { key: 'code', fields: { code: integer({ max: 40 }) } }),
];

/** Decides cases one after the other with what is known of the ones before, and each by itself: the same is said of it. */
function assertSame(model: Schema[number], cases: readonly Case[], mixed: (count: number) => number): number {
  const together = decider(model);
  // In their order, as alike records follow one another; then mixed up, at other times too.
  const asked = [...cases, ...cases.map((_, at) => cases[mixed(at + 1)] as Case)];
  for (const [at, { input, wire, does, existing, before }] of asked.entries()) {
    const store = (of: string) => before.filter((one) => one.ruleset === of).map(({ row }) => row);
    const clock = clocks[at < cases.length ? 0 : mixed(clocks.length)] ?? { instant: '2026-03-02T09:00:00Z' };
    const how = { store, clock, existing, partial: does === 'patch' };
    assert.deepEqual(together(input, wire, how), decide(model, input, wire, how), JSON.stringify(input));
  }
  return asked.length;
}

describe('records that are decided one after the other', () => {
  test('those of the studio get the verdict that each gets by itself', () => {
    const random = randomFrom(1);
    const below = (count: number) => random.below(count);
    const count = studio.reduce((sum, model) => sum + assertSame(model, casesFor(model, studio), below), 0);
    assert.ok(count > 5_000, `${count} records`);
  });

  test(`those of ${RULESETS} random rulesets, too`, () => {
    let [found, count] = [0, 0];
    for (let seed = 100; found < RULESETS; seed += 1) {
      const random = randomFrom(seed);
      const schema = schemaOf([rulesetOf(likely(rulesetSource(random))), ...referredTo]);
      for (const model of schema.filter((one) => one.ruleset === 'random')) {
        try {
          count += assertSame(model, casesFor(model, schema), (most) => random.below(most));
          found += 1;
        } catch (error) {
          if (problemsOf(error)?.some(({ code }) => code === 'no_base') !== true) throw error;
        }
      }
    }
    assert.ok(count > 500 * RULESETS, `${count} records`);
  });

  test('a verdict that its owner changes is no other one for the next record', () => {
    const tray = ruleset('tray', { fields: { height: integer({ max: 9 }), mark: text({ maxLength: 3 }) } });
    for (const model of schemaOf([tray])) {
      const together = decider(model);
      for (const mark of ['a', 'b', 'c']) {
        const verdict = together({ height: 9, mark }, 'json');
        assert.deepEqual(verdict, { accepted: { height: 9, mark } });
        if ('accepted' in verdict) Object.assign(verdict.accepted, { height: 12, mark: 'changed' });
      }
    }
  });

  test('a record that its owner changes after it was decided is another one', () => {
    const tray = ruleset('tray', {
      fields: { foot: record({ height: integer({ max: 9 }) }), marks: list(text({ maxLength: 3 })) },
    });
    for (const model of schemaOf([tray])) {
      const together = decider(model);
      const input = { foot: { height: 9 }, marks: ['a'] };
      assert.ok('accepted' in together(input, 'json'), 'as it was');
      input.foot.height = 10;
      input.marks.push('too long');
      const verdict = together(input, 'json');
      assert.deepEqual('refused' in verdict ? verdict.refused.map(({ pointer }) => pointer) : [], [
        '/foot/height',
        '/marks/1',
      ]);
    }
  });
});
