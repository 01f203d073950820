import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { casesOf } from '../../../src/compile.js';
import type { Case } from '../../../src/core/model/index.js';
import { type Expression, email, not, ruleset, type TextTerm, text, url } from '../../../src/index.js';

const fields = { tag: text({ pattern: /[A-Z]{2}-[a-z0-9.]{4,9}/ }), page: url(), mail: email() };
const asked: { readonly [words: string]: (of: TextTerm) => Expression } = {
  contains: (of) => of.contains('e.x'),
  startsWith: (of) => of.startsWith('K'),
  endsWith: (of) => of.endsWith('.q9'),
  matches: (of) => of.matches(/.*[c-d]y.*/),
};

describe('rules over the texts of a field', () => {
  for (const name of ['tag', 'page', 'mail'] as const)
    for (const [words, question] of Object.entries(asked)) {
      // No address of a page begins so.
      if (name === 'page' && words === 'startsWith') continue;
      test(`not ${words}: a text of the grammar of ${name} breaks the rule, and nothing else`, () => {
        const [made, rule] = [
          ruleset('shelf', { fields, rules: (it) => ({ barred: not(question(it[name])) }) }),
          'shelf.barred',
        ];
        const breaking = casesOf([made]).filter(
          (one) => one.constraint === rule && one.does === 'insert' && refused(one).join() === rule,
        );
        assert.deepEqual(new Set(breaking.map(({ wire }) => wire)), new Set(['form', 'json', 'row']));
      });
    }

  test('a pattern that would be too large together with the field’s own is passed over', () => {
    const made = ruleset('shelf', {
      fields: { tag: text({ pattern: /(?:[a-c]{113}|x)*y?/ }) },
      rules: (it) => ({ barred: not(it.tag.matches(/(?:[a-c]{127}|x)*z?/)) }),
    });
    assert.ok(casesOf([made]).length > 100, 'cases of the other rules');
  });
});

function refused({ expected }: Case): readonly string[] {
  return 'refused' in expected ? expected.refused.map((one) => one.rule) : [];
}
