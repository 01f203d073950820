import assert from 'node:assert/strict';
import { test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { decide } from '../../src/core/meaning/index.js';
import { problemsOf } from '../../src/core/messages/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import { integer, list, record, ruleset, text } from '../../src/index.js';
import { httpLayer } from '../../src/layers/index.js';
import { recordServer } from '../fixtures/record-server.js';
import { modelIn } from '../fixtures/schema.js';

/** No field of it says where a record is. */
const memo = ruleset('memo', {
  fields: {
    words: text({ maxLength: 20 }),
    parts: list(record({ what: text({ maxLength: 5 }), count: integer() }), { maxItems: 3 }),
  },
});
const schema = schemaOf([memo]);
const model = modelIn(schema, 'memo');
const cases = casesFor(model, schema);

/** An interface that counts its records; `spoil` changes what it stores of one. */
const memoServer = (spoil: (stored: object) => object = (stored) => stored) =>
  recordServer((input) => decide(model, input, 'json'), spoil);

async function probed(url: string, key: string) {
  const layers = { interface: httpLayer({ records: { memo: { create: url, record: `${url}/{${key}}` } } }) };
  const answered = await askAll(cases, layers, { schema, folder: '.', output: '.' });
  return summarise(answered, layers, schema, ledgerOf(schema));
}

test('a key that the store gives, and that is no field, says where a record is: it is read again and removed', async () => {
  const { url, records: memos, close } = await memoServer();
  const { mismatches, answers } = await probed(url, 'id');
  await close();
  assert.deepEqual(mismatches, []);
  assert.ok(answers > 50, `${answers} answers`);
  assert.equal(memos.size, 0);
});

test('an address that no answer completes ends the run after a few records', async () => {
  const { url, records: memos, close } = await memoServer();
  const error = await probed(url, 'number').catch((thrown: unknown) => thrown);
  await close();
  const [problem] = problemsOf(error) ?? [];
  assert.equal(problem?.code, 'layer_unfit');
  assert.match(
    problem.message,
    /\d records of memo were created and remain there, as no answer contains what http\S+\{number\} needs/,
  );
  assert.ok(memos.size >= 3 && memos.size <= 8, `${memos.size} of them`);
});

test('an answer whose list holds nothing that can be read is what differs, and is removed', async () => {
  const {
    url,
    records: memos,
    close,
  } = await memoServer((stored) => ({
    ...stored,
    parts: [[], null, { what: {}, count: 'x' }],
  }));
  const { mismatches } = await probed(url, 'id');
  await close();
  assert.ok(
    mismatches.length > 0 && mismatches.every(({ kind }) => kind === 'altered'),
    JSON.stringify(mismatches.map(({ kind, reason }) => [kind, reason])),
  );
  assert.equal(memos.size, 0);
});
