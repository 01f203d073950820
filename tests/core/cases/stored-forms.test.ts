import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { measureStrength, sqliteScratch } from '../../../src/agreement/strength/index.js';
import { casesOf } from '../../../src/compile.js';
import { untestedRules } from '../../../src/core/cases/index.js';
import { schemaOf } from '../../../src/core/declare/index.js';
import { ruleset, text } from '../../../src/index.js';

const member = ruleset('member', {
  key: 'handle',
  fields: {
    handle: text({ pattern: /[a-z]{3,8}/ }),
    pin: text({
      minLength: 6,
      secret: { storedAs: 'pinDigest', by: (typed) => `d1$${'0'.repeat(String(typed).length)}` },
    }),
    pinDigest: text({ enforcedIn: ['database'], maxLength: 40, pattern: /d1\$[0-9a-f]+/ }),
  },
});
const schema = schemaOf([member]);
const cases = casesOf([member]);
const about = (facet: string) => cases.filter(({ constraint }) => constraint === `member.pinDigest.${facet}`);

describe('cases that write the stored form of a secret', () => {
  test('break each of its rules by itself, on the row wire', () => {
    for (const facet of ['maxLength', 'pattern']) {
      const refused = about(facet).filter(({ expected }) => 'refused' in expected);
      assert.ok(refused.length > 0, facet);
      for (const { wire, input, expected } of refused) {
        assert.equal(wire, 'row');
        assert.ok(!Object.hasOwn(input as object, 'pin'), 'the secret itself is in no row');
        assert.ok('refused' in expected && expected.refused.every(({ pointer }) => pointer === '/pin'), facet);
      }
    }
    assert.ok(
      about('maxLength').some(({ expected }) => 'accepted' in expected),
      'the longest',
    );
  });

  test('leave no rule of it untested but its type', () => {
    const [model] = schema;
    assert.ok(model !== undefined, 'member');
    const set = {
      ruleset: 'member',
      cases,
      leftOut: new Map(),
      crowded: new Set<string>(),
      crowdedTargets: new Set<string>(),
    };
    const open = untestedRules([set], schema).filter(({ rule }) => rule.includes('pinDigest'));
    assert.deepEqual(
      open.map(({ rule, reason }) => `${rule} ${reason}`),
      ['member.pinDigest.type serverMakes'],
    );
  });

  test('catch tables that do not check it', async () => {
    const { mutants, unsound } = await measureStrength(schema, schema, { scratches: [sqliteScratch()] });
    const planted = mutants.filter(({ mistake }) => mistake === 'stored form unchecked');
    assert.deepEqual(unsound, []);
    assert.ok(planted.length >= 2, `${planted.length} mistakes`);
    const outcomes = planted.map(({ constraint, outcome }) => `${constraint} ${outcome}`);
    for (const facet of ['maxLength', 'pattern'])
      assert.ok(outcomes.includes(`member.pinDigest.${facet} killed`), facet);
    assert.ok(!outcomes.some((one) => one.endsWith('survived')), outcomes.join());
  });
});
