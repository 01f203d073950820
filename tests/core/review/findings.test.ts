import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { review } from '../../../src/compile.js';
import { type AnyRuleset, schemaOf } from '../../../src/core/declare/index.js';
import { type Finding, reviewSchema, severities } from '../../../src/core/review/index.js';
import { ruleset } from '../../../src/index.js';
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

/** The table's rulesets have one name: in one schema each needs its own. */
function renamed(one: AnyRuleset, at: number): AnyRuleset {
  return ruleset(`x${at}`, { ...one.declaration, table: `x${at}` } as Parameters<
    typeof ruleset
  >[1]) as unknown as AnyRuleset;
}

describe('what a review finds', () => {
  test('the table has sixty declarations and more', () => assert.ok(reviewed.length >= 60, `${reviewed.length}`));

  test('in process, the weightiest come first', () => {
    const alone = reviewed.filter(({ rulesets }) => rulesets.length === 1).flatMap(({ rulesets }) => rulesets);
    const all = review(alone.map(renamed));
    const weights = all.map(({ severity }) => severities.indexOf(severity));
    assert.deepEqual(
      weights,
      [...weights].sort((a, b) => a - b),
    );
    assert.ok(all.length > 80, `${all.length} findings`);
  });

  for (const { name, rulesets, found } of reviewed)
    test(`${name}: ${found.join(', ') || 'none'}`, () => {
      const told = reviewSchema(schemaOf(rulesets)).filter(({ code }) => !ofLayers.includes(code));
      assert.deepEqual(told.map(short), found);
    });
});
