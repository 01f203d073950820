import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import { sqliteScratch } from '../../../src/agreement/strength/index.js';
import { casesOf } from '../../../src/compile.js';
import { schemaOf } from '../../../src/core/declare/index.js';
import { aloneWith } from '../../../src/core/mistakes/index.js';
import type { Case } from '../../../src/core/model/index.js';
import { tableTargets } from '../../../src/core/targets/index.js';
import { integer, list, record, reference, ruleset, text } from '../../../src/index.js';
import type { OpenLayer } from '../../../src/layers/layer.js';

const glaze = ruleset('glaze', { key: 'code', fields: { code: text({ pattern: /G[0-9]{2}/ }) } });
const shelf = ruleset('shelf', { key: 'id', fields: { id: integer({ generated: 'identity' }), name: text() } });
const batch = ruleset('batch', {
  key: 'no',
  fields: {
    no: integer({ min: 1 }),
    refused: reference(glaze),
    cleared: reference(shelf, { optional: true, onDelete: 'clear' }),
    gone: reference(shelf, { optional: true, onDelete: 'cascade' }),
    coats: list(reference(glaze, { onDelete: 'cascade' }), { maxItems: 3 }),
    tests: list(record({ of: reference(shelf, { optional: true, onDelete: 'clear' }), note: text() }), { maxItems: 2 }),
    kept: list(reference(glaze), { maxItems: 2, keptAs: 'json' }),
    needed: reference(shelf, { optional: true, onDelete: 'clear' }),
    why: text({ optional: true }),
  },
  rules: (it) => ({ neededOrWhy: it.needed.given().or(it.why.given()) }),
});
const rulesets = [glaze, shelf, batch];
const schema = schemaOf(rulesets);
const deletions = casesOf(rulesets).filter(({ does }) => does === 'delete');
const about = (path: string) => deletions.find(({ constraint }) => constraint === `batch.${path}.reference`);

describe('cases that delete what a record refers to', () => {
  test('expect a refusal, unless the reference declares another action', () => {
    const expected = about('refused')?.expected;
    assert.ok(expected !== undefined && 'refused' in expected, 'a refusal');
    assert.deepEqual(
      expected.refused.map(({ pointer, rule }) => [pointer, rule]),
      [['', 'glaze.inUse']],
    );
  });

  test('expect the record without the reference, or no record', () => {
    assert.deepEqual(accepted(about('gone')), {});
    const cleared = about('cleared');
    assert.deepEqual(accepted(cleared), { ...accepted(cleared), ...cleared?.existing, cleared: null });
  });

  test('expect a list without the entry, or an entry without the reference', () => {
    const coats = about('coats[]');
    const { key } = (coats?.input ?? {}) as { readonly key?: unknown };
    const before = (coats?.existing?.coats ?? []) as readonly string[];
    assert.ok(before.includes(String(key)), `${key}`);
    assert.deepEqual(
      accepted(coats).coats,
      before.filter((one) => one !== key),
    );
    const tests = accepted(about('tests[].of')).tests as readonly { readonly of: unknown }[];
    assert.equal(tests[0]?.of, null);
  });

  test('there are none for a list in a column of JSON, which has no foreign key', () => {
    assert.equal(about('kept[]'), undefined);
  });

  test('nothing but the reference leads to the deleted row', () => {
    assert.ok(deletions.length >= 5, `${deletions.length} cases`);
    for (const { existing, input } of deletions) {
      const { key } = input as { readonly key: string | number };
      const { kept: _kept, ...stored } = existing ?? {};
      assert.equal(JSON.stringify(stored).split(JSON.stringify(key)).length, 2, JSON.stringify(existing));
    }
  });

  describe('in tables', () => {
    const scratch = sqliteScratch();
    const open = (from: typeof schema): Promise<OpenLayer> =>
      scratch.open(tableTargets.sqlite.emit(from)[0]?.text ?? '', { schema, folder: '', output: '' });
    let sound: OpenLayer;
    before(async () => {
      sound = await open(schema);
    });
    after(() => sound.close());

    test('each comes to what is expected', async () => {
      for await (const [one, answer] of sound.answer(deletions)) {
        if ('refused' in one.expected)
          assert.deepEqual('refused' in answer && answer.refused.map(({ rule }) => rule), ['glaze.inUse'], one.id);
        else assert.deepEqual(answer, { accepted: one.expected.accepted }, one.id);
      }
    });

    test('another action comes to something else', async () => {
      const model = schema.find(({ ruleset }) => ruleset === 'batch');
      assert.ok(model !== undefined, 'batch');
      const field = model.fields.refused;
      assert.ok(field !== undefined, 'refused');
      const facets = { ...field.facets, onDelete: 'cascade' };
      const other = { ...model, fields: { ...model.fields, refused: { ...field, facets } } };
      const changed = await open(aloneWith(other, [...schema.filter((one) => one !== model), other]));
      const one = about('refused');
      for await (const [, answer] of changed.answer(one === undefined ? [] : [one]))
        assert.deepEqual(answer, { accepted: {} });
      await changed.close();
    });
  });
});

function accepted(one: Case | undefined) {
  assert.ok(one !== undefined && 'accepted' in one.expected, one?.id ?? 'there is such a case');
  return one.expected.accepted;
}
