import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { askAll } from '../src/agreement/index.js';
import { caseSetFor, casesFor, selected } from '../src/core/cases/index.js';
import { decide } from '../src/core/meaning/index.js';
import type { Case, Row } from '../src/core/model/index.js';
import { functionLayer, httpLayer, type Layer, pageLayer, sqliteLayer } from '../src/layers/index.js';
import { openBrowser } from '../tests/fixtures/browser.js';
import { modelIn, studio } from '../tests/fixtures/schema.js';
import { startStudio } from '../tests/fixtures/studio.js';
import { figure } from './measure.js';

const OUTPUT = 'examples/kiln-bookings/echo';
/** So many cases are typed into a page. */
const TYPED = 120;

/** How many cases a second a layer answers, from its first answer to its last. */
async function rateOf(
  layer: Layer,
  cases: readonly Case[],
): Promise<{ readonly rate: number; readonly answers: number }> {
  let [first, last, done] = [0, 0, 0];
  const answered = await askAll(cases, { layer }, { schema: studio, folder: '.', output: OUTPUT }, (_name, count) => {
    last = performance.now();
    if (count === 1) first = last;
    done = count;
  });
  const answers = answered.filter(({ answer }) => !('notApplicable' in answer)).length;
  return { rate: (1000 * Math.max(done - 1, 1)) / (last - first), answers };
}

/** Each kind of layer beside the same work done without one. */
export async function benchLayers(): Promise<void> {
  const all = studio.flatMap((model) => casesFor(model, studio));
  await benchFunction(all);
  const sqlite = await rateOf(sqliteLayer(), all);
  figure(`sqlite: cases a second (${sqlite.answers} answers)`, sqlite.rate, '');
  await benchHttp();
  await benchPage();
}

/** The compiled modules, and the same calls made by hand. */
async function benchFunction(all: readonly Case[]): Promise<void> {
  const cases = all.filter(({ wire, does }) => wire === 'json' && does === 'insert');
  const { rate } = await rateOf(functionLayer(), cases);
  const modules = new Map<string, { check(input: unknown, how: object): unknown }>();
  for (const { ruleset } of studio) modules.set(ruleset, await import(`../${OUTPUT}/javascript/${ruleset}.js`));
  const start = performance.now();
  for (const { ruleset, input, wire, clock } of cases) modules.get(ruleset)?.check(input, { wire, clock });
  const raw = (1000 * cases.length) / (performance.now() - start);
  figure('function: cases a second', rate, '');
  figure('function: beside the same calls made by hand, of the rate', rate / raw, '');
}

/** The same requests sent raw: as many, to the same server, as many at once. */
async function benchHttp(): Promise<void> {
  const kiln = modelIn(studio, 'kiln');
  const kilns = new Map<string, Row>();
  const sent: (readonly [method: string, path: string, body: string])[] = [];
  const server = createServer((request, response) => {
    let body = '';
    request.on('data', (chunk) => {
      body += chunk;
    });
    request.on('end', () => {
      const { method = 'GET', url = '/' } = request;
      sent.push([method, url, body]);
      const code = decodeURIComponent(url.split('/')[2] ?? '');
      const verdict =
        method === 'POST' ? decide(kiln, JSON.parse(body), 'json', { store: () => [...kilns.values()] }) : null;
      if (verdict !== null && 'accepted' in verdict) kilns.set(String(verdict.accepted.code), verdict.accepted);
      if (method === 'DELETE') kilns.delete(code);
      const status = verdict === null ? (kilns.has(code) ? 200 : 404) : 'accepted' in verdict ? 201 : 422;
      const answer =
        verdict === null
          ? (kilns.get(code) ?? {})
          : 'accepted' in verdict
            ? verdict.accepted
            : { violations: verdict.refused };
      response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(answer));
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const cases = casesFor(kiln, studio).filter(({ wire, does }) => wire === 'json' && does === 'insert');
  const layer = httpLayer({ records: { kiln: { create: `${url}/kilns`, record: `${url}/kilns/{code}` } } });
  const { rate } = await rateOf(layer, cases);
  const requests = sent.splice(0);
  const start = performance.now();
  const waiting = [...requests];
  await Promise.all(
    Array.from({ length: 4 }, async () => {
      for (let one = waiting.shift(); one !== undefined; one = waiting.shift()) {
        const [method, path, body] = one;
        await (await fetch(`${url}${path}`, { method, ...(body === '' ? {} : { body }) })).text();
      }
    }),
  );
  const raw = (1000 * cases.length) / (performance.now() - start);
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
  figure(`http: cases a second (${requests.length} requests for ${cases.length} cases)`, rate, '');
  figure('http: beside the same requests sent raw, of the rate', rate / raw, 'close to 1');
}

async function benchPage(): Promise<void> {
  await (await openBrowser()).close();
  const running = await startStudio();
  const fits = ({ wire, does }: Case) => wire === 'form' && does === 'insert';
  const { cases } = selected([caseSetFor(modelIn(studio, 'firing'), studio)], { fits, budget: TYPED });
  const { rate, answers } = await rateOf(pageLayer({ pages: { firing: `${running.url}/firings/new` } }), cases);
  await running.stop();
  figure(`page: cases a second, typed into Chromium (${answers} of ${cases.length} can be typed)`, rate, '20 or more');
}
