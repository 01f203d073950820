import { casesFor } from '../src/core/cases/index.js';
import type { Case, Row } from '../src/core/model/index.js';
import { tableTargets } from '../src/core/targets/index.js';
import { mariadbLayer, postgresqlLayer } from '../src/layers/index.js';
import type { OpenLayer } from '../src/layers/layer.js';
import { insertRows } from '../src/server/insert.js';
import { rowsOf } from '../src/server/rows.js';
import { type Engine, engineNames, engineWith } from '../tests/fixtures/engines.js';
import { modelIn, studio } from '../tests/fixtures/schema.js';

const ROUNDS = 5;
const ROWS = 400;
const PROBES = 600;

/** The fastest of several rounds, in milliseconds. */
async function fastest(work: () => Promise<unknown>): Promise<number> {
  let best = Number.POSITIVE_INFINITY;
  for (let round = 0; round < ROUNDS; round++) {
    const start = performance.now();
    await work();
    best = Math.min(best, performance.now() - start);
  }
  return best;
}

/** The compiled SQL of a plain table: the same columns, keys and foreign keys, without CHECKs and triggers. */
function bare(sql: string): string {
  return sql
    .split('\n')
    .filter((line) => !/^ {2}CONSTRAINT \S+ CHECK /.test(line))
    .join('\n')
    .replace(/,(\s*(?:--[^\n]*)?\n\))/g, '$1')
    .replace(/CREATE TRIGGER[\s\S]*?\nEND;\n/g, '');
}

/** Inserts firings, each with two helpers, in one transaction that is rolled back. */
async function insertAll({ connection }: Engine): Promise<void> {
  const firing = modelIn(studio, 'firing');
  const rows = Array.from({ length: ROWS }, (_, at): Row => {
    const day = `${2026 + Math.floor(at / 336)}-${String((Math.floor(at / 28) % 12) + 1).padStart(2, '0')}-${String((at % 28) + 1).padStart(2, '0')}`;
    return {
      tag: `AB-${String(at).padStart(4, '0')}`,
      kiln: 'K01',
      potter: 'ines',
      title: 'Bowls for the market',
      pieces: 4,
      peak: 1200,
      glaze: 'celadon',
      vented: true,
      fee: 12.5,
      loadOn: day,
      collectOn: null,
      shelf: { bay: 'A1', level: 2 },
      helpers: ['Tomek', 'Ewa'],
      notes: 'Please fire slowly.\nThank you.',
    };
  });
  await connection.run('BEGIN');
  for (const row of rows) await insertRows(connection, await rowsOf(firing, row, studio, connection.engine));
  await connection.run('ROLLBACK');
}

async function seed({ connection }: Engine): Promise<void> {
  const kiln = { code: 'K01', name: 'Big oven', hottest: 1300 };
  const potter = { handle: 'ines', name: 'Ines', phone: null, email: null, memberSince: '2020-01-01', inducted: true };
  for (const [name, row] of [
    ['kiln', kiln],
    ['potter', potter],
  ] as const)
    await insertRows(connection, await rowsOf(modelIn(studio, name), row, studio, connection.engine));
}

/** The cost of the constraints: the same rows into the same tables with and without them. */
async function constraintCost(): Promise<void> {
  for (const name of engineNames) {
    const whole = await engineWith(name, studio);
    await seed(whole);
    const withRules = await fastest(() => insertAll(whole));
    await whole.close();
    const plain = await engineWith(name, studio, bare);
    await seed(plain);
    const without = await fastest(() => insertAll(plain));
    await plain.close();
    console.log(`${name}: an insert with all constraints costs ${(withRules / without).toFixed(2)} of one without`);
  }
}

/** One insert behind one savepoint for each round trip: what probing would be without blocks. */
async function oneByOne({ connection }: Engine, cases: readonly Case[]): Promise<void> {
  await connection.run('BEGIN');
  for (const one of cases) {
    await connection.run('SAVEPOINT one');
    const row = await rowsOf(modelIn(studio, one.ruleset), one.input as Row, studio, connection.engine);
    await insertRows(connection, row).catch(() => null);
    await connection.run('ROLLBACK TO one');
  }
  await connection.run('ROLLBACK');
}

async function answerAll(layer: OpenLayer, cases: readonly Case[]): Promise<void> {
  for await (const _ of layer.answer(cases));
}

/** Probing in blocks beside a round trip a case, on the same connection. */
async function probing(): Promise<void> {
  const all = casesFor(modelIn(studio, 'kiln'), studio).filter(
    ({ wire, before }) => wire === 'row' && before.length === 0,
  );
  const cases = Array.from({ length: Math.ceil(PROBES / all.length) }, () => all).flat();
  const layers = { postgresql: postgresqlLayer, mariadb: mariadbLayer, 'postgresql in WASM': postgresqlLayer };
  for (const name of Object.keys(layers) as readonly (keyof typeof layers)[]) {
    const engine = await engineWith(name, studio);
    const layer = await layers[name]({ handle: engine.handle }).open({ schema: studio, folder: '.', output: '.' });
    const blocks = await fastest(() => answerAll(layer, cases));
    const single = await fastest(() => oneByOne(engine, cases));
    await engine.close();
    console.log(
      `${name}: probing in blocks is ${(single / blocks).toFixed(1)} times as fast as a savepoint a round trip`,
    );
  }
}

export async function benchDatabases(): Promise<void> {
  console.log(`databases (${Object.keys(tableTargets).length} targets; fastest of ${ROUNDS} rounds)`);
  await constraintCost();
  await probing();
}
