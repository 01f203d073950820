import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { list, lookUp, record, ruleset, text } from 'echo-rule';
import { polish } from 'echo-rule/languages';
import { standard } from 'echo-rule/standard';

const shelf = ruleset('shelf', {
  fields: { code: text({ maxLength: 3 }), bays: list(record({ name: text() })) },
});

describe('the standard interface', () => {
  test('a value in canonical form, or issues with the way to each', async () => {
    const { validate, version, vendor } = standard(shelf)['~standard'];
    assert.deepEqual([version, vendor], [1, 'echo-rule']);
    assert.deepEqual(await validate({ code: ' A1 ' }), { value: { code: 'A1', bays: [] } });
    assert.deepEqual(await validate({ code: 'A123', bays: [{ name: 'x' }, {}], 'a/b': 1 }), {
      issues: [
        { message: 'This field is not known here.', path: ['a/b'] },
        { message: 'Code must have at most 3 characters.', path: ['code'] },
        { message: 'Name is missing.', path: ['bays', 1, 'name'] },
      ],
    });
  });

  test('in another language, and with what the server must ask', async () => {
    const asking = ruleset('asking', {
      fields: { code: text() },
      rules: (it) => ({ known: lookUp([it.code]) }),
    });
    const { validate } = standard(asking, { lookUps: { known: (code: string) => code === 'A1' } }, polish)['~standard'];
    assert.ok('value' in (await validate({ code: 'A1' })), 'a known code');
    const refused = await validate({ code: 'B2' });
    assert.deepEqual(
      refused.issues?.map(({ path }) => path),
      [['code']],
    );
    const missing = await validate({});
    assert.deepEqual(
      missing.issues?.map(({ message }) => message),
      ['Brakuje pola „Code”.'],
    );
  });
});
