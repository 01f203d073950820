import assert from 'node:assert/strict';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { after, before, describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { decide } from '../../src/core/meaning/index.js';
import type { Case, Row } from '../../src/core/model/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import { integer, ruleset, text } from '../../src/index.js';
import { type HttpOptions, httpLayer } from '../../src/layers/index.js';
import { modelIn, studio } from '../fixtures/schema.js';
import { startStudio } from '../fixtures/studio.js';

/** Gives cases to an interface, and tells who disagrees. */
async function probed(options: HttpOptions, cases: readonly Case[]) {
  const layers = { interface: httpLayer(options) };
  const answered = await askAll(cases, layers, { schema: studio, folder: '.', output: '.' });
  const applicable = answered.filter(({ answer }) => !('notApplicable' in answer));
  return { answered, applicable, ...summarise(answered, layers, studio, ledgerOf(studio)) };
}

describe('the interface of the studio', () => {
  let running: Awaited<ReturnType<typeof startStudio>>;
  before(async () => {
    running = await startStudio();
  });
  after(() => running.stop());

  const records = (): HttpOptions['records'] => {
    const at = (path: string, key: string) => ({
      create: `${running.url}/${path}`,
      record: `${running.url}/${path}/{${key}}`,
    });
    return { firing: at('firings', 'tag'), kiln: at('kilns', 'code'), potter: at('potters', 'handle') };
  };
  const cases = studio.flatMap((model) => casesFor(model, studio));
  const stored = async () => {
    const pages = ['firings', 'kilns', 'potters'].map(async (path) => (await fetch(`${running.url}/${path}`)).text());
    return Promise.all(pages);
  };

  for (const [wire, does, least] of [
    ['json', ['insert', 'replace', 'patch'], 1_200],
    ['form', ['insert'], 1_000],
  ] as const) {
    test(`answers every case that comes as ${wire} as it should, and nothing is left behind`, async () => {
      const earlier = await stored();
      const { mismatches, applicable, answered } = await probed({ records: records(), wires: [wire], does }, cases);
      assert.deepEqual(mismatches, []);
      assert.ok(applicable.length > least, `${applicable.length} answers`);
      for (const operation of does)
        assert.ok(
          applicable.some(({ case: one }) => one.does === operation),
          operation,
        );
      assert.ok(
        answered.every(({ case: one, answer }) => 'notApplicable' in answer || one.wire === wire),
        'no other wire is asked',
      );
      assert.deepEqual(await stored(), earlier);
    });
  }
});

/** What a server makes of a new kiln, one mistake each. */
type Handler = (record: Row, response: ServerResponse, kilns: Map<string, Row>) => void;

/** A small server of kilns by hand: right but for what it makes of a new one. */
async function kilnServer(handler: Handler) {
  const kilns = new Map<string, Row>();
  const asked: string[] = [];
  const server = createServer(async (request: IncomingMessage, response) => {
    asked.push(`${request.method} ${request.url}`);
    const parts: Buffer[] = [];
    for await (const part of request) parts.push(part as Buffer);
    const code = decodeURIComponent((request.url ?? '').split('/')[2] ?? '');
    if (request.method === 'POST') return handler(JSON.parse(Buffer.concat(parts).toString()) as Row, response, kilns);
    if (request.method === 'DELETE') kilns.delete(code);
    const found = kilns.get(code);
    reply(response, found === undefined ? 404 : 200, found ?? {});
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const close = () => {
    server.closeAllConnections();
    return new Promise((resolve) => server.close(resolve));
  };
  return { url, kilns, asked, close };
}

function reply(response: ServerResponse, status: number, body: unknown): void {
  response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
}

const kiln = modelIn(studio, 'kiln');
const judged = (record: Row) => decide(kiln, record, 'json');
const right: Handler = (record, response, kilns) => {
  const verdict = judged(record);
  if ('refused' in verdict) return reply(response, 422, { violations: verdict.refused });
  const code = String(verdict.accepted.code);
  if (kilns.has(code))
    return reply(response, 409, { violations: [{ pointer: '/code', rule: 'kiln.code.unique', message: 'taken' }] });
  kilns.set(code, verdict.accepted);
  reply(response, 201, verdict.accepted);
};
const kinds = (mismatches: readonly { readonly kind: string }[]) =>
  [...new Set(mismatches.map(({ kind }) => kind))].sort();
const json = casesFor(kiln, studio).filter(({ wire, does }) => wire === 'json' && does === 'insert');

describe('an interface by hand', () => {
  const flaws: readonly (readonly [words: string, handler: Handler, found: readonly string[]])[] = [
    ['is right', right, []],
    ['answers 500', (_record, response) => reply(response, 500, { title: 'Oops' }), ['breakdown']],
    ['closes the connection', (_record, response) => response.destroy(), ['breakdown']],
    [
      'refuses, and stores all the same',
      (record, response, kilns) => {
        const verdict = judged(record);
        if ('refused' in verdict && /^K[0-9]{2}$/.test(String(record?.code).trim()))
          kilns.set(String(record.code).trim(), record);
        right(record, response, kilns);
      },
      ['residue'],
    ],
    [
      'reports success, and stores another value',
      (record, response, kilns) => {
        const verdict = judged(record);
        if ('refused' in verdict) return right(record, response, kilns);
        right({ ...record, name: `${verdict.accepted.name}`.slice(0, 20) }, response, kilns);
      },
      ['altered'],
    ],
    [
      'blames the record as a whole',
      (record, response, kilns) => {
        const verdict = judged(record);
        const [first] = 'refused' in verdict ? verdict.refused : [];
        if (first === undefined) return right(record, response, kilns);
        reply(response, 422, { violations: [{ ...first, pointer: '', rule: null }] });
      },
      ['blame'],
    ],
  ];
  for (const [words, handler, found] of flaws)
    test(`one that ${words}: ${found.join() || 'no difference'}`, async () => {
      const server = await kilnServer(handler);
      const records = { kiln: { create: `${server.url}/kilns`, record: `${server.url}/kilns/{code}` } };
      const { mismatches } = await probed({ records }, json);
      const rest = [...server.kilns.keys()];
      await server.close();
      assert.deepEqual(kinds(mismatches), found);
      assert.deepEqual(rest, [], 'all that was made is removed');
    });

  for (const [words, leaves, found] of [
    ['is right', false, []],
    ['refuses, and stores all the same', true, ['residue']],
  ] as const)
    test(`one whose store makes the key, and that ${words}: ${found.join() || 'no difference'}`, async () => {
      const note = ruleset('note', {
        key: 'number',
        fields: { number: integer({ generated: 'identity' }), words: text({ maxLength: 5 }) },
      });
      const schema = schemaOf([note]);
      const model = modelIn(schema, 'note');
      const notes = new Map<number, Row>();
      let last = 0;
      const server = createServer(async (request, response) => {
        const parts: Buffer[] = [];
        for await (const part of request) parts.push(part as Buffer);
        const number = Number((request.url ?? '').split('/')[2]);
        if (request.method === 'DELETE') notes.delete(number);
        if (request.method !== 'POST')
          return Number.isNaN(number)
            ? reply(response, 200, { notes: [...notes.values()] })
            : reply(response, notes.has(number) ? 200 : 404, notes.get(number) ?? {});
        const record = JSON.parse(Buffer.concat(parts).toString()) as Row;
        const verdict = decide(model, record, 'json');
        const isStored = 'accepted' in verdict || leaves;
        if (isStored) notes.set(++last, { ...('accepted' in verdict ? verdict.accepted : record), number: last });
        if ('refused' in verdict) return reply(response, 422, { violations: verdict.refused });
        reply(response, 201, notes.get(last));
      });
      await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
      const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/notes`;
      const layers = {
        interface: httpLayer({ records: { note: { create: url, record: `${url}/{number}`, all: url } } }),
      };
      const cases = casesFor(model, schema).filter(({ wire, does }) => wire === 'json' && does === 'insert');
      const answered = await askAll(cases, layers, { schema, folder: '.', output: '.' });
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      assert.deepEqual(kinds(summarise(answered, layers, schema, ledgerOf(schema)).mismatches), found);
      assert.deepEqual([...notes.keys()], [], 'all that was made, or left, is removed');
      assert.ok(last > 10, `${last} were stored`);
    });

  test('one that does not answer in time breaks down, and says so', async () => {
    const server = await kilnServer(() => {});
    const { answered } = await probed(
      { records: { kiln: { create: `${server.url}/kilns` } }, timeout: 50 },
      json.slice(0, 2),
    );
    await server.close();
    assert.deepEqual(
      answered.map(({ answer }) => answer),
      [{ breakdown: 'no answer within 0.05 s' }, { breakdown: 'no answer within 0.05 s' }],
    );
  });

  test('faults in another form are read by pointers or by a function', async () => {
    const other: Handler = (record, response, kilns) => {
      const verdict = judged(record);
      const isTaken = 'accepted' in verdict && kilns.has(String(verdict.accepted.code));
      if ('accepted' in verdict && !isTaken) return right(record, response, kilns);
      const repeat = [{ pointer: '/code', rule: 'kiln.code.unique' }];
      const errors = ('refused' in verdict ? verdict.refused : repeat).map(({ pointer, rule }) => ({
        where: { at: `#${pointer}` },
        code: rule,
      }));
      reply(response, 400, { errors });
    };
    const server = await kilnServer(other);
    const records = { kiln: { create: `${server.url}/kilns`, record: `${server.url}/kilns/{code}` } };
    const byPointers = await probed(
      { records, faults: { faults: '/errors', field: '/where/at', rule: '/code' } },
      json,
    );
    const byFunction = await probed(
      {
        records,
        faults: ({ body }) => {
          const { errors } = body as { readonly errors: readonly { where: { at: string }; code: string }[] };
          return { refused: errors.map(({ where, code }) => ({ field: where.at.slice(1), rule: code })) };
        },
      },
      json,
    );
    await server.close();
    assert.deepEqual([byPointers.mismatches, byFunction.mismatches], [[], []]);
  });

  test('set-up and clean-up calls go to its own addresses only, and every case has its own', async () => {
    const server = await kilnServer(right);
    const calls: string[] = [];
    const records = { kiln: { create: `${server.url}/kilns`, record: `${server.url}/kilns/{code}` } };
    const { answered } = await probed(
      {
        records,
        setUp: async ({ id }) => void calls.push(id),
        cleanUp: async (_one, send) => {
          calls.push('after');
          await assert.rejects(send('DELETE', 'http://127.0.0.1:9/kilns'), /at none of the layer's own addresses/);
        },
      },
      json.slice(0, 3),
    );
    await server.close();
    assert.deepEqual(
      calls,
      json.slice(0, 3).flatMap(({ id }) => [id, 'after']),
    );
    assert.ok(
      answered.every(({ answer }) => !('breakdown' in answer)),
      JSON.stringify(answered.map(({ answer }) => answer)),
    );
  });

  test('a record that is there from before is neither changed nor removed', async () => {
    const server = await kilnServer(right);
    const own = { code: 'K12', name: 'Ours', hottest: 1_000 };
    server.kilns.set('K12', own);
    const records = { kiln: { create: `${server.url}/kilns`, record: `${server.url}/kilns/{code}` } };
    const { answered, mismatches } = await probed({ records }, json);
    const rest = [...server.kilns.values()];
    await server.close();
    assert.deepEqual(rest, [own]);
    assert.deepEqual(mismatches, []);
    assert.ok(
      answered.some(({ answer }) => 'notApplicable' in answer && /no case knows/.test(answer.notApplicable)),
      'what it stands in the way of is not judged',
    );
  });

  test('an address that nobody answers at is told before anything is asked', async () => {
    const server = await kilnServer(right);
    await server.close();
    await assert.rejects(probed({ records: { kiln: { create: `${server.url}/kilns` } } }, json), /ECONNREFUSED/);
    await assert.rejects(probed({ records: { kiln: { create: 'kilns' } } }, json), /no address of HTTP/);
  });
});
