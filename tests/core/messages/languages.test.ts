import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { integer, list, rule, ruleset, text, unique, validator } from 'echo-rule';
import { english, messagesIn, polish } from 'echo-rule/languages';
import { wordKeys } from '../../../src/core/messages/index.js';
import { everyKind, studio } from '../../fixtures/schema.js';

const shelf = ruleset('shelf', {
  fields: {
    code: text({ minLength: 2, label: 'Code', messages: { minLength: '{label}: {limit} signs, please.' } }),
    note: text({ maxLength: 1 }),
    bays: list(integer(), { maxItems: 3 }),
  },
  rules: (it) => ({
    odd: rule({ holds: it.code.is('A1'), message: 'Only A1 here.' }),
    even: it.note.missing(),
    once: unique(it.code, it.note),
  }),
});
const input = { code: 'x', note: 'yy', bays: [1, 2, 3, 4] };

function said(catalogue = english): readonly string[] {
  const checked = validator(shelf, catalogue).check(input);
  return checked.ok ? [] : checked.violations.map(({ message }) => message);
}

describe('messages', () => {
  test('in English, with plurals, and in words of the declaration', () => {
    assert.deepEqual(said(), [
      'Code: 2 signs, please.',
      'Note must have at most 1 character.',
      'Bays must have at most 3 entries.',
      'Only A1 here.',
      'Note breaks the rule "even".',
    ]);
  });

  test('in another language by its own plural forms; what the declaration says stays unless said anew', () => {
    const own = { ...polish, labels: { 'shelf.note': 'Uwaga' }, messages: { 'shelf.odd': 'Tylko A1.' } };
    const [declared, note, bays, odd] = said(own);
    assert.equal(declared, 'Code: 2 signs, please.');
    assert.match(note ?? '', /Uwaga.*1 znak/);
    assert.match(bays ?? '', /3 pozycje/);
    assert.equal(odd, 'Tylko A1.');
  });

  test('every catalogue has words for every rule there is, and the second differs from the first', () => {
    for (const catalogue of [english, polish])
      assert.deepEqual(Object.keys(catalogue.words).sort(), [...wordKeys].sort());
    for (const model of [...studio, ...everyKind]) {
      const messages = messagesIn({ model }, polish);
      for (const { id, message, phrase } of model.constraints) {
        assert.doesNotMatch(messages[id] ?? '', /\{(?:label|limit)\}/, id);
        if (phrase === null) assert.equal(messages[id], message);
        else assert.notEqual(messages[id], message, id);
      }
    }
  });
});
