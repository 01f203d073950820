import assert from 'node:assert/strict';
import { spawn } from 'node:child_process';
import { createServer, type IncomingMessage, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { after, before, describe, test } from 'node:test';
import { askAll } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { decide } from '../../src/core/meaning/index.js';
import { problemsOf } from '../../src/core/messages/index.js';
import type { Row } from '../../src/core/model/index.js';
import { httpLayer, type Layer, mariadbLayer, postgresqlLayer, sqliteLayer } from '../../src/layers/index.js';
import { engineWith } from '../fixtures/engines.js';
import { temporaryFolder } from '../fixtures/project.js';
import { modelIn, studio } from '../fixtures/schema.js';
import { connectMariadb, connectPostgresql } from '../fixtures/servers.js';

const surroundings = { schema: studio, folder: '.', output: '.' };
const kiln = modelIn(studio, 'kiln');

/** A server of kilns, right in all it says, that can be stopped and started again with what it holds. */
function kilnServer() {
  const kilns = new Map<string, Row>();
  let [server, port, slow]: [Server | null, number, number] = [null, 0, 0];
  const answer = async (request: IncomingMessage) => {
    const parts: Buffer[] = [];
    for await (const part of request) parts.push(part as Buffer);
    if (slow > 0) await new Promise((resolve) => setTimeout(resolve, slow));
    const code = decodeURIComponent((request.url ?? '').split('/')[2] ?? '');
    if (request.method === 'DELETE') return { status: kilns.delete(code) ? 204 : 404, body: null };
    if (request.method !== 'POST') return { status: kilns.has(code) ? 200 : 404, body: kilns.get(code) ?? null };
    const store = () => [...kilns.values()];
    const verdict = decide(kiln, JSON.parse(Buffer.concat(parts).toString()), 'json', { store });
    if ('refused' in verdict) return { status: 422, body: { violations: verdict.refused } };
    kilns.set(String(verdict.accepted.code), verdict.accepted);
    return { status: 201, body: verdict.accepted };
  };
  const start = async () => {
    server = createServer((request, response) => {
      answer(request).then(({ status, body }) => {
        response.writeHead(status, { 'content-type': 'application/json' });
        response.end(body === null ? '' : JSON.stringify(body));
      });
    });
    await new Promise<void>((resolve) => server?.listen(port, '127.0.0.1', resolve));
    port = (server.address() as AddressInfo).port;
    return `http://127.0.0.1:${port}`;
  };
  const stop = async () => {
    server?.closeAllConnections();
    await new Promise((resolve) => server?.close(resolve));
  };
  const slowTo = (delay: number) => {
    slow = delay;
  };
  return { kilns, start, stop, slowTo };
}

const cases = casesFor(kiln, studio).filter(({ wire, does }) => wire === 'json' && does === 'insert');

describe('a run that is stopped', () => {
  test('by a signal: what was made is removed, and the exit code and the words say so', async () => {
    const server = kilnServer();
    const url = await server.start();
    server.slowTo(30);
    const { folder, remove } = temporaryFolder({
      'echo-rule.config.ts': `
        import { settings } from 'echo-rule/config';
        import { httpLayer } from 'echo-rule/layers';
        export default settings({
          rules: ['${process.cwd()}/examples/kiln-bookings/rules/kiln.rules.ts'],
          output: 'echo',
          layers: { interface: httpLayer({ records: { kiln: { create: '${url}/kilns', record: '${url}/kilns/{code}' } } }) },
        });`,
    });
    const words = ['dist/cli/bin.js', '--config', `${folder}/echo-rule.config.ts`, 'probe'];
    const child = spawn(process.execPath, words, { stdio: ['ignore', 'pipe', 'pipe'] });
    let [out, told] = ['', ''];
    child.stdout.on('data', (chunk) => {
      out += chunk;
    });
    child.stderr.on('data', (chunk) => {
      told += chunk;
    });
    const ended = new Promise<number | null>((resolve) => child.once('exit', resolve));
    const waited = setInterval(() => {
      if (server.kilns.size === 0) return;
      clearInterval(waited);
      child.kill('SIGINT');
    }, 5);
    const code = await ended;
    clearInterval(waited);
    await server.stop();
    remove();
    assert.equal(code, 130, told);
    assert.match(told, /Stopped before the end; nothing was left behind\./);
    assert.equal(out, '', 'no half of a result');
    assert.deepEqual([...server.kilns], []);
  });

  test('between two answers of an engine in this process, too', async () => {
    const stopping = new AbortController();
    let asked = 0;
    const counting = (_layer: string, done: number) => {
      asked = done;
      if (done === 3) setImmediate(() => stopping.abort());
    };
    const layers = { sqlite: sqliteLayer({ sql: 'examples/kiln-bookings/echo/sqlite/tables.sql' }) };
    const all = studio.flatMap((model) => casesFor(model, studio));
    await assert.rejects(askAll(all, layers, surroundings, counting, stopping.signal), stopping.signal.reason);
    assert.ok(asked >= 3 && asked < 100, `${asked} answers`);
  });
});

describe('a connection that is lost', () => {
  const engines = [
    ['postgresql', (url: string) => postgresqlLayer({ url }), connectPostgresql],
    ['mariadb', (url: string) => mariadbLayer({ url }), connectMariadb],
  ] as const;
  for (const [name, layerOf] of engines)
    test(`of ${name}: the layer is out of reach, and its tables are as they were`, async () => {
      const engine = await engineWith(name, studio);
      const { connection } = engine;
      const isPostgresql = connection.engine === 'postgresql';
      const url = engine.url ?? '';
      const others = isPostgresql
        ? 'SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()'
        : "SELECT concat('KILL ', id) AS kill_it FROM information_schema.processlist WHERE db = database() AND id <> connection_id()";
      let killed = false;
      const kill = async () => {
        killed = true;
        for (const { kill_it } of await connection.rows(others))
          if (kill_it != null) await connection.run(String(kill_it));
      };
      const asked = studio.flatMap((model) => casesFor(model, studio));
      const run = askAll(asked, { table: layerOf(url) }, surroundings, (_layer, done) => {
        if (done > 20 && !killed) kill();
      });
      await assert.rejects(run, (error) => {
        const [problem] = problemsOf(error) ?? [];
        assert.equal(problem?.code, 'layer_unreachable', String(error));
        assert.match(problem?.message ?? '', /the connection was lost .* nothing is left behind/);
        return true;
      });
      for (const table of ['kilns', 'potters', 'firings', 'firings_helpers'])
        assert.deepEqual(await connection.rows(`SELECT * FROM ${table}`), [], table);
      await engine.close();
    });
});

describe('a server that goes away', () => {
  let server: ReturnType<typeof kilnServer>;
  let url: string;
  before(async () => {
    server = kilnServer();
    url = await server.start();
  });
  after(() => server.stop());
  const layer = (): Layer =>
    httpLayer({ records: { kiln: { create: `${url}/kilns`, record: `${url}/kilns/{code}` } } });

  test('and comes back: what it still held of the run is removed', async () => {
    server.slowTo(5);
    let restarted: Promise<unknown> | null = null;
    await askAll(cases, { interface: layer() }, surroundings, (_layer, done) => {
      if (done === 40)
        restarted = server.stop().then(() => new Promise((resolve) => setTimeout(resolve, 20)).then(server.start));
    }).catch((error) => assert.equal(problemsOf(error)?.[0]?.code, 'layer_unreachable'));
    await restarted;
    assert.notEqual(restarted, null);
    assert.deepEqual([...server.kilns], []);
  });

  test('for good: the layer is out of reach after a while, not at every case', async () => {
    let done = 0;
    const gone = askAll(cases, { interface: layer() }, surroundings, (_layer, count) => {
      done = count;
      if (count === 10) server.stop();
    });
    await assert.rejects(gone, (error) => problemsOf(error)?.[0]?.code === 'layer_unreachable');
    assert.ok(done < cases.length, `${done} answers`);
    await server.start();
  });
});
