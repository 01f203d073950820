import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { after, before, describe, type TestContext, test } from 'node:test';
import {
  askAll,
  isWithoutStore,
  judgedAlone,
  type Mismatch,
  recordStatements,
  rowsBeside,
  summarise,
} from '../../src/agreement/index.js';
import { measureStrength, sqliteScratch } from '../../src/agreement/strength/index.js';
import { type CaseSet, caseSetsFor, type UntestedRule, untestedRules } from '../../src/core/cases/index.js';
import type { Schema } from '../../src/core/declare/index.js';
import { type FilledRuleset, fillSchema } from '../../src/core/fill/index.js';
import { problemsOf } from '../../src/core/messages/index.js';
import { writes } from '../../src/core/model/index.js';
import { ledgerOf, tableTargets } from '../../src/core/targets/index.js';
import { englishWords } from '../../src/fill.js';
import {
  formLayer,
  functionLayer,
  type Layer,
  mariadbLayer,
  postgresqlLayer,
  sqliteLayer,
} from '../../src/layers/index.js';
import type { Surroundings } from '../../src/layers/layer.js';
import { testFile } from '../../src/report/index.js';
import { type Engine, type EngineTested, engineNames, engineWith } from '../fixtures/engines.js';
import { compiled } from '../fixtures/project.js';
import { randomFrom } from '../fixtures/random.js';
import { schemaFrom, schemaSource } from '../fixtures/random-schemas.js';
import { soak } from '../fixtures/records.js';

const SCHEMAS = soak ? 300 : 10;
/** Every so many schemas, the tables are filled as well. */
const FILLED = 4;
/** So many records of each ruleset, or as many of these as its rules leave room for. */
const RECORDS = [12, 3, 1];
/** So many cases of a schema go to each layer, spread over all that there are. */
const MOST_CASES = 300;
/** So many mistakes are planted in each layer of a ruleset, spread over all that there are. */
const MOST_PLANTED = 2;

/** The share of this process, such as `1/2`, where several run the long form beside each other. */
const [SHARE = 1, SHARES = 1] = (process.env.ECHO_RULE_SHARE ?? '1/1').split('/').map(Number);

const layerOf = { postgresql: postgresqlLayer, mariadb: mariadbLayer, sqlite: sqliteLayer };
/** Reasons that leave a rule without a case, and that a schema can give. */
const explained: ReadonlySet<UntestedRule['reason']> = new Set([
  'storeFills',
  'serverMakes',
  'undeclaredDropped',
  'neverBroken',
  'neverKept',
  'impliedByOthers',
  'noOtherRow',
  'noTarget',
  'undecided',
]);

interface Drawn {
  readonly source: string;
  readonly schema: Schema;
  readonly sets: readonly CaseSet[];
}

/** A schema with its cases; null where there is no valid record of some ruleset, as its rules contradict each other. */
function drawn(seed: number): Drawn | null {
  const source = schemaSource(randomFrom(seed));
  const schema = schemaFrom(source);
  try {
    return { source, schema, sets: caseSetsFor(schema, schema) };
  } catch (error) {
    if (problemsOf(error)?.every(({ code }) => code === 'no_base') !== true) throw error;
    return null;
  }
}

describe('random schemas in every layer', () => {
  const running = new Map<EngineTested, Engine>();
  before(async () => {
    for (const name of engineNames) running.set(name, await engineWith(name, []));
  });
  after(async () => {
    for (const engine of running.values()) await engine.close();
  });

  test(`${SCHEMAS} of them`, async (whole) => {
    const without: number[] = [];
    for (let seed = 0, count = 0; count < SCHEMAS; seed += 1) {
      const found = drawn(seed);
      if (found === null) {
        without.push(seed);
        continue;
      }
      count += 1;
      if (count % SHARES !== SHARE % SHARES) continue;
      await whole.test(`schema ${seed}`, (context) => assertRight(context, found, count, running));
    }
    console.log(`# no valid record, as rules contradict each other: seeds ${without.join(', ')}`);
  });
});

async function assertRight(
  context: TestContext,
  { source, schema, sets }: Drawn,
  count: number,
  running: ReadonlyMap<EngineTested, Engine>,
): Promise<void> {
  const surroundings = compiled(schema);
  context.after(surroundings.remove);
  await context.test('every rule is accepted and refused by a case, or it says why not', () => {
    const open = untestedRules(sets, schema).filter(({ reason }) => !explained.has(reason));
    assert.deepEqual(
      open.map(({ rule, lacks, reason }) => `${rule} ${lacks} ${reason}`),
      [],
      source,
    );
  });
  await context.test('the module, the form and four engines agree, on empty tables', async () => {
    const layers: { readonly [name: string]: Layer } = { module: functionLayer(), form: formLayer() };
    assertAgree(await differences(sets, layers, surroundings), source);
    await inEvery(running, async (engine) =>
      withTables(engine, schema, [], async () => {
        assertAgree(await differences(sets, { engine: layerFor(engine) }, surroundings), source);
      }),
    );
  });
  if (count % FILLED === 0)
    await context.test('so do they on tables that hold records', async (inner) => {
      const filled = filledWith(schema);
      if (typeof filled === 'string') return inner.skip(filled);
      await inEvery(running, async (engine) => {
        const statements = await recordStatements(filled, engine.connection.engine, schema);
        await withTables(engine, schema, statements, async () => {
          const layers = { engine: layerFor(engine) };
          const beside = await rowsBeside(layers, surroundings);
          assertAgree(await differences(caseSetsFor(schema, schema, beside), layers, surroundings), source);
        });
      });
    });
  await context.test('mistakes that are planted in the module, a store, the form and SQLite are caught', async () => {
    const { mutants, unsound } = await measureStrength(schema, schema, {
      scratches: [sqliteScratch()],
      sets,
      most: MOST_PLANTED,
    });
    const missed = mutants.filter(({ outcome }) => outcome === 'survived');
    assert.deepEqual(unsound, [], source);
    assert.deepEqual(
      missed.map(({ id, words, shown }) => ({ id, words, shown })),
      [],
      source,
    );
    assert.ok(
      mutants.some(({ outcome }) => outcome === 'killed'),
      'some are',
    );
  });
  await context.test('the test file passes on the compiled module', () => {
    const cases = sets.flatMap((one) => one.cases).filter(isWithoutStore(schema, () => writes));
    const modules = Object.fromEntries(schema.map(({ ruleset }) => [ruleset, `./javascript/${ruleset}.js`]));
    const alone = cases.map((one) => judgedAlone(one, schema));
    const file = join(surroundings.folder, 'cases.test.mjs');
    writeFileSync(file, testFile(alone, { modules, addresses: {} }));
    const { status, stdout } = spawnSync(process.execPath, ['--test', file], { encoding: 'utf8' });
    assert.equal(status, 0, `${stdout.slice(0, 2000)}\n${source}`);
  });
}

/** Records for the tables, as many as there is room for; in words why there are none. */
function filledWith(schema: Schema): readonly FilledRuleset[] | string {
  let why = '';
  for (const count of RECORDS) {
    try {
      return fillSchema(schema, { count, seed: 1, words: englishWords() });
    } catch (error) {
      const found = problemsOf(error);
      if (found?.every(({ code }) => code === 'fill_exhausted') !== true) throw error;
      why = found.map(({ message }) => message).join(' ');
    }
  }
  return why;
}

/** One after the other would take the sum of their times. */
async function inEvery(
  running: ReadonlyMap<EngineTested, Engine>,
  use: (engine: Engine) => Promise<void>,
): Promise<void> {
  const done = await Promise.allSettled([...running.values()].map(use));
  for (const one of done) if (one.status === 'rejected') throw one.reason;
}

function layerFor({ connection, handle }: Engine): Layer {
  return layerOf[connection.engine]({ handle, compiled: true });
}

/** Makes the tables of a schema, and drops them after. */
async function withTables(
  { connection }: Engine,
  schema: Schema,
  statements: readonly string[],
  use: () => Promise<void>,
): Promise<void> {
  const [made = '', dropped = ''] = tableTargets[connection.engine].emit(schema).map(({ text }) => text);
  try {
    await connection.run(made);
    for (const statement of statements) await connection.run(statement);
    await use();
  } finally {
    await connection.run(dropped);
  }
}

async function differences(
  sets: readonly CaseSet[],
  layers: { readonly [name: string]: Layer },
  surroundings: Surroundings,
): Promise<readonly Mismatch[]> {
  const { schema } = surroundings;
  const all = sets.flatMap((one) => one.cases);
  const step = Math.ceil(all.length / MOST_CASES);
  const cases = all.filter((_, at) => at % step === 0);
  const answered = await askAll(cases, layers, surroundings);
  const { mismatches, setupFaults } = summarise(answered, layers, schema, ledgerOf(schema));
  assert.deepEqual(setupFaults, [], 'the rows that a case needs are stored');
  return mismatches;
}

function assertAgree(mismatches: readonly Mismatch[], source: string): void {
  const words = mismatches.map(
    ({ rule, kind, reason, input, expected, observed }) =>
      `${rule} ${kind}, ${reason}: ${JSON.stringify(input)}; expected ${JSON.stringify(expected)}, observed ${JSON.stringify(observed)}`,
  );
  assert.deepEqual(words, [], source);
}
