import assert from 'node:assert/strict';
import { createServer, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import { test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { decide } from '../../src/core/meaning/index.js';
import { problemsOf } from '../../src/core/messages/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import { integer, list, record, ruleset, text } from '../../src/index.js';
import { httpLayer } from '../../src/layers/index.js';
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

/** An interface that counts its records; `spoil` changes what it answers of one. */
async function memoServer(spoil: (stored: object) => object = (stored) => stored) {
  const memos = new Map<string, object>();
  let count = 0;
  const server = createServer(async (request: IncomingMessage, response) => {
    const reply = (status: number, body: object) => {
      response.writeHead(status, { 'content-type': 'application/json' });
      response.end(JSON.stringify(body));
    };
    const parts: Buffer[] = [];
    for await (const part of request) parts.push(part as Buffer);
    const id = (request.url ?? '').split('/')[2] ?? '';
    if (request.method === 'DELETE') return reply(memos.delete(id) ? 200 : 404, {});
    if (request.method !== 'POST') return reply(memos.has(id) ? 200 : 404, memos.get(id) ?? {});
    const verdict = decide(model, JSON.parse(Buffer.concat(parts).toString()), 'json');
    if ('refused' in verdict) return reply(422, { violations: verdict.refused });
    count += 1;
    const stored = spoil({ id: count, ...verdict.accepted });
    memos.set(String(count), stored);
    return reply(201, stored);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/memos`;
  const close = () => {
    server.closeAllConnections();
    return new Promise((resolve) => server.close(resolve));
  };
  return { url, memos, close };
}

async function probed(url: string, key: string) {
  const layers = { interface: httpLayer({ records: { memo: { create: url, record: `${url}/{${key}}` } } }) };
  const answered = await askAll(cases, layers, { schema, folder: '.', output: '.' });
  return summarise(answered, layers, schema, ledgerOf(schema));
}

test('a key that the store gives, and that is no field, says where a record is: it is read again and removed', async () => {
  const { url, memos, close } = await memoServer();
  const { mismatches, answers } = await probed(url, 'id');
  await close();
  assert.deepEqual(mismatches, []);
  assert.ok(answers > 50, `${answers} answers`);
  assert.equal(memos.size, 0);
});

test('an address that no answer completes ends the run after a few records', async () => {
  const { url, memos, close } = await memoServer();
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
  const { url, memos, close } = await memoServer((stored) => ({
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
