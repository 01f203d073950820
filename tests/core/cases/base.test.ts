import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { casesOf } from '../../../src/compile.js';
import { decide } from '../../../src/core/meaning/index.js';
import { date, integer, ruleset, text } from '../../../src/index.js';

describe('the valid record that cases start from', () => {
  test('is worked out where trying plausible values leads nowhere', () => {
    const made = ruleset('loan', {
      fields: {
        shelf: text({ minLength: 13, maxLength: 13, pattern: /(?:ab|cde)+f/ }),
        word: text({ pattern: /(?=.*[0-9])(?=.*[A-Z]).{8,12}/ }),
        from: date(),
        to: date(),
        weeks: integer({ min: 7, max: 90 }),
      },
      rules: (it) => ({
        asLong: it.from.daysUntil(it.to).is(it.weeks.times(7)),
        marked: it.word.startsWith('zz9'),
      }),
    });
    const cases = casesOf([made]);
    const [first] = cases;
    assert.ok(first !== undefined && cases.length > 200, `${cases.length} cases`);
    const accepted = cases.filter(({ expected, does }) => 'accepted' in expected && does === 'insert');
    assert.ok(accepted.length > 20, `${accepted.length} are accepted`);
    for (const { input, wire, clock, expected } of accepted)
      assert.deepEqual(decide(made.model, input, wire, { clock }), expected);
  });
});
