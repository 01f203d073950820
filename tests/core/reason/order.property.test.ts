import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { schemaOf } from '../../../src/core/declare/index.js';
import { monthsBetween } from '../../../src/core/kinds/calendar.js';
import { addDays, daysBetween } from '../../../src/core/kinds/index.js';
import { automatonOfPattern, countWords, Languages, Reasoner, shortestLength } from '../../../src/core/reason/index.js';
import { date, decimal, integer, ruleset, text } from '../../../src/index.js';
import { randomFrom } from '../../fixtures/random.js';
import { soak } from '../../fixtures/records.js';

const RUNS = soak ? 100_000 : 5_000;

describe('what reasoning rests on', () => {
  test(`${RUNS} stretches of days: no number of whole months is further from so many average ones than is taken`, () => {
    const random = randomFrom(1);
    const average = 30.436875;
    for (let run = 0; run < RUNS; run++) {
      const from = addDays('0001-01-01', random.below(3_652_058)) ?? '0001-01-01';
      const to = addDays(from, random.below(40_000) - 20_000) ?? from;
      const [days, months] = [daysBetween(from, to), monthsBetween(from, to)];
      const [least, most] = days >= 0 ? [months, months + 1] : [months - 1, months];
      assert.ok(days >= least * average - 5 && days <= most * average + 5, `${from} to ${to}: ${days}, ${months}`);
    }
  });

  test('lengths by layers: what is shortest, and what there is none of, without counting in states', () => {
    const threes = automatonOfPattern({ source: '(?:abc)+', flags: 'u' });
    assert.deepEqual(shortestLength(threes, [[4, 5]]), 'none');
    assert.deepEqual(shortestLength(threes, [[9_998, 10_000]]), { length: 9_999 });
    assert.deepEqual(shortestLength(threes, [[1_000_000, Number.POSITIVE_INFINITY]]), { length: 1_000_002 });
    const twoOrFive = automatonOfPattern({ source: '(?:a{2}|b{5})', flags: 'u' });
    assert.deepEqual(shortestLength(twoOrFive, [[3, 9]]), { length: 5 });
    assert.equal(countWords(automatonOfPattern({ source: 'K[0-9]{2}', flags: 'u' }), [[0, 9]], 1_000), 100);
  });

  test('a limit of ten thousand characters is answered at once, and the record is one of that length', () => {
    const [model] = schemaOf([
      ruleset('x', { fields: { a: text({ minLength: 9_998, maxLength: 10_000, pattern: /(?:abc)+/ }) } }),
    ]);
    if (model === undefined) throw new Error('no model');
    const found = new Reasoner(model, new Languages()).decide(model.constraints);
    assert.ok(found.is === 'possible', found.is);
    assert.equal(String(found.example.row.a).length, 9_999);
  });

  test(`${RUNS / 50} random chains of dates and numbers: possible where a search over small values finds one`, () => {
    for (let seed = 1; seed <= RUNS / 50; seed++) {
      const random = randomFrom(seed);
      const names = ['a', 'b', 'c'] as const;
      const pairs = Array.from({ length: 3 }, () => [random.below(3), random.below(3), random.below(7) - 3] as const);
      const step = 1 + random.below(3);
      const made = ruleset('x', {
        fields: {
          a: integer({ min: 0, max: 6, step }),
          b: integer({ min: 0, max: 6 }),
          c: decimal({ precision: 2, scale: 1, min: 0, max: 6, step: '0.5' }),
        },
        rules: (it) =>
          Object.fromEntries(
            pairs.map(([left, right, more], at) => [
              `r${at}`,
              it[names[left] ?? 'a'].isAtLeast(it[names[right] ?? 'a'].plus(more)),
            ]),
          ),
      });
      const [model] = schemaOf([made]);
      if (model === undefined) throw new Error('no model');
      const halves = Array.from({ length: 13 }, (_, at) => at / 2);
      const whole = halves.filter(Number.isInteger);
      const some = whole
        .filter((a) => a % step === 0)
        .some((a) =>
          whole.some((b) =>
            halves.some((c) =>
              pairs.every(([left, right, more]) => ([a, b, c][left] ?? 0) >= ([a, b, c][right] ?? 0) + more),
            ),
          ),
        );
      const found = new Reasoner(model, new Languages()).decide(model.constraints);
      assert.equal(found.is, some ? 'possible' : 'impossible', `${JSON.stringify(pairs)}, step ${step}`);
    }
  });

  test('days are counted from the first that there is', () => {
    const [model] = schemaOf([
      ruleset('x', {
        fields: { a: date(), b: date() },
        rules: (it) => ({ r: it.a.daysUntil(it.b).isAtLeast(3_652_058) }),
      }),
    ]);
    if (model === undefined) throw new Error('no model');
    const found = new Reasoner(model, new Languages()).decide(model.constraints);
    assert.ok(found.is === 'possible', found.is);
    assert.deepEqual(found.example.row, { a: '0001-01-01', b: '9999-12-31' });
  });
});
