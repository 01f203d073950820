import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { schemaOf } from '../../../src/core/declare/index.js';
import { type Finding, reviewSchema } from '../../../src/core/review/index.js';
import { reviewed } from '../../fixtures/reviewed.js';

/** What layers don't hold is looked at elsewhere. */
const ofLayers = ['not_stored', 'client_blind', 'attribute_left_out'];

/** A finding as the table says it: its code and its rules, those of the field it is about by their last word. */
function short({ code, ruleset, field, rules }: Finding): string {
  const names = rules.map(({ id }) => {
    const name = id.slice(ruleset.length + 1);
    return field !== '' && name.startsWith(`${field}.`) ? name.slice(field.length + 1) : name;
  });
  return [code, ...names].join(' ');
}

describe('what a review finds', () => {
  test('the table has sixty declarations and more', () => assert.ok(reviewed.length >= 60, `${reviewed.length}`));

  for (const { name, rulesets, found } of reviewed)
    test(`${name}: ${found.join(', ') || 'none'}`, () => {
      const told = reviewSchema(schemaOf(rulesets)).filter(({ code }) => !ofLayers.includes(code));
      assert.deepEqual(told.map(short), found);
    });
});
