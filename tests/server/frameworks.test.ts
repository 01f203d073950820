import assert from 'node:assert/strict';
import { createServer, request as httpRequest, type Server } from 'node:http';
import { type AddressInfo, connect } from 'node:net';
import { after, describe, test } from 'node:test';
import express from 'express';
import fastify from 'fastify';
import { Hono } from 'hono';
import { kiln } from '../../examples/kiln-bookings/rules/kiln.rules.js';
import {
  endpoint,
  expressHandler,
  fastifyHandler,
  honoHandler,
  nodeHandler,
  passBodies,
} from '../../src/server/index.js';

const save = async (value: unknown) => Response.json(value, { status: 201, headers: { location: '/kilns/K07' } });
const good = { code: 'K07', name: ' Small one ', hottest: 1200 };

/** An address that each server answers under, and how to end it. */
const servers: { readonly [name: string]: () => Promise<{ readonly url: string; close(): Promise<unknown> }> } = {
  async node() {
    return listening(createServer(nodeHandler(endpoint(kiln, { save }))));
  },
  async express() {
    const app = express();
    app.post('/kilns', expressHandler(endpoint(kiln, { save })));
    return listening(createServer(app));
  },
  'express behind its own JSON parser': async () => {
    const app = express();
    app.use(express.json());
    app.post('/kilns', expressHandler(endpoint(kiln, { save })));
    return listening(createServer(app));
  },
  async fastify() {
    const app = fastify();
    passBodies(app);
    app.post('/kilns', fastifyHandler(endpoint(kiln, { save })));
    return { url: await app.listen({ port: 0, host: '127.0.0.1' }), close: () => app.close() };
  },
  async hono() {
    const app = new Hono();
    app.post('/kilns', honoHandler(endpoint(kiln, { save })));
    return listening(createServer(nodeHandler(async (request) => app.fetch(request))));
  },
};

async function listening(server: Server): Promise<{ readonly url: string; close(): Promise<unknown> }> {
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    close: () =>
      new Promise((resolve) => {
        server.close(resolve);
        server.closeAllConnections();
      }),
  };
}

for (const [name, start] of Object.entries(servers)) {
  describe(`served by ${name}`, async () => {
    const { url, close } = await start();
    after(() => close());
    const send = (body: string, type: string) =>
      fetch(`${url}/kilns`, { method: 'POST', body, headers: { 'content-type': type } });

    test('a record goes in, and one with faults is told them', async () => {
      const stored = await send(JSON.stringify(good), 'application/json');
      assert.deepEqual([stored.status, await stored.json()], [201, { ...good, name: 'Small one' }]);
      assert.equal(stored.headers.get('location'), '/kilns/K07');
      const refused = await send(JSON.stringify({ ...good, hottest: 1 }), 'application/json');
      const { violations } = (await refused.json()) as { violations: { rule: string }[] };
      assert.deepEqual([refused.status, violations.map(({ rule }) => rule)], [422, ['kiln.hottest.min']]);
    });

    if (!name.includes('parser')) {
      test('bodies that are no records get problem documents', async () => {
        const large = 'x'.repeat(3_000_000);
        for (const [body, type, status] of [
          ['{', 'application/json', 400],
          ['{}', 'text/plain', 415],
          [large, 'application/json', 413],
          ['code=K07&name=Small&hottest=1200', 'application/x-www-form-urlencoded', 201],
        ] as const) {
          const response = await send(body, type);
          assert.equal(response.status, status, type);
          if (status !== 201) assert.equal(response.headers.get('content-type'), 'application/problem+json');
        }
      });
    }
  });
}

describe("what Node's own server lets through", async () => {
  const { url, close } = (await servers.node?.()) ?? { url: '', close: async () => {} };
  const { port, hostname } = new URL(url);
  after(() => close());

  test('a body without an end and a length is cut off at the limit; the next request is answered', async () => {
    const status = await new Promise<number | undefined>((resolve, reject) => {
      const sending = httpRequest({
        port,
        host: hostname,
        method: 'POST',
        path: '/kilns',
        headers: { 'content-type': 'application/json' },
      });
      sending.on('response', ({ statusCode }) => {
        resolve(statusCode);
        sending.destroy();
      });
      sending.on('error', reject);
      const chunk = Buffer.alloc(100_000, 32);
      const more = () => {
        if (!sending.destroyed) sending.write(chunk, () => setImmediate(more));
      };
      more();
    });
    assert.equal(status, 413);
    assert.equal((await fetch(`${url}/kilns`, { method: 'POST' })).status, 415);
  });

  test('a handler that throws is answered for, and told to whoever listens', async () => {
    const faults: unknown[] = [];
    const failing = await listening(
      createServer(
        nodeHandler(
          async () => {
            throw new Error('not mine');
          },
          (error) => faults.push(error),
        ),
      ),
    );
    const response = await fetch(failing.url, { method: 'POST', body: '{}' });
    await failing.close();
    const { code } = (await response.json()) as { code: string };
    assert.deepEqual([response.status, code, faults.length], [500, 'fault', 1]);
  });

  test('an address, a method and a host that are none are told', async () => {
    for (const [line, host] of [
      ['POST //[ HTTP/1.1', 'studio'],
      ['TRACE /kilns HTTP/1.1', 'studio'],
    ]) {
      const text = await new Promise<string>((resolve) => {
        let answer = '';
        const socket = connect(Number(port), hostname, () =>
          socket.write(`${line}\r\nhost: ${host}\r\nconnection: close\r\n\r\n`),
        );
        socket.on('data', (chunk) => {
          answer += chunk;
        });
        socket.on('close', () => resolve(answer));
      });
      assert.match(text, /^HTTP\/1\.1 400 [\s\S]+application\/problem\+json[\s\S]+"code":"url"/, line);
    }
  });
});
