import assert from 'node:assert/strict';
import { spawn } from 'node:child_process';
import { after, before, describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { problemsOf } from '../../src/core/messages/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import { integer, ruleset, text } from '../../src/index.js';
import { postgresqlLayer } from '../../src/layers/index.js';
import { type Engine, engineWith } from '../fixtures/engines.js';

const depot = ruleset('depot', {
  key: 'code',
  fields: { code: text({ maxLength: 4 }), bays: integer({ min: 1, max: 9 }) },
});
const schema = schemaOf([depot]);
const cases = schema.flatMap((model) => casesFor(model, schema));
const surroundings = { schema, folder: '.', output: '.' };
const SLOW = `CREATE FUNCTION slow() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN PERFORM pg_sleep(0.1); RETURN new; END';
CREATE TRIGGER slow BEFORE INSERT ON depot FOR EACH ROW EXECUTE FUNCTION slow()`;

describe('sessions that do not outlast a run', () => {
  let engine: Engine;
  before(async () => {
    engine = await engineWith('postgresql', schema);
  });
  after(() => engine.close());
  const url = () => engine.url ?? '';
  const database = () => new URL(url()).pathname.slice(1);

  test('a database whose statements end soon is probed with time enough', async () => {
    await engine.connection.run(`ALTER DATABASE ${database()} SET statement_timeout = 1`);
    const layers = { table: postgresqlLayer({ url: url(), compiled: true }) };
    const answered = await askAll(cases, layers, surroundings);
    await engine.connection.run(`ALTER DATABASE ${database()} RESET statement_timeout`);
    assert.deepEqual(summarise(answered, layers, schema, ledgerOf(schema)).mismatches, []);
  });

  test('what ends a statement in a session of somebody else is reported, and nothing is left', async () => {
    const { connection, handle } = engine;
    await connection.run(SLOW);
    await connection.run('SET statement_timeout = 150');
    const error = await askAll(cases, { table: postgresqlLayer({ handle }) }, surroundings).catch((thrown) => thrown);
    await connection.run('SET statement_timeout = 0');
    const [problem] = problemsOf(error) ?? [];
    assert.equal(problem?.code, 'layer_unreachable');
    assert.match(
      problem.message,
      /ended a statement that took too long \(canceling statement due to statement timeout\)/,
    );
    assert.equal(await connection.inTransaction(), false);
    assert.deepEqual(await connection.rows('SELECT code FROM depot'), []);
  });

  test('a process that is killed leaves no session behind: the server sees within seconds that it is gone', async () => {
    const { connection } = engine;
    const sessions = async () =>
      (
        await connection.rows(
          `SELECT pid, state, query, backend_type FROM pg_stat_activity WHERE datname = current_database()
            AND pid <> pg_backend_pid() AND backend_type = 'client backend'`,
        )
      ).length;
    const source = `
      const { askAll } = await import(${JSON.stringify(new URL('../../src/agreement/index.ts', import.meta.url).href)});
      const { casesFor } = await import(${JSON.stringify(new URL('../../src/core/cases/index.ts', import.meta.url).href)});
      const { schemaOf } = await import(${JSON.stringify(new URL('../../src/core/declare/index.ts', import.meta.url).href)});
      const { integer, ruleset, text } = await import(${JSON.stringify(new URL('../../src/index.ts', import.meta.url).href)});
      const { postgresqlLayer } = await import(${JSON.stringify(new URL('../../src/layers/index.ts', import.meta.url).href)});
      const depot = ruleset('depot', { key: 'code', fields: { code: text({ maxLength: 4 }), bays: integer({ min: 1, max: 9 }) } });
      const schema = schemaOf([depot]);
      const layers = { table: postgresqlLayer({ url: process.argv.at(-1) }) };
      await askAll(schema.flatMap((model) => casesFor(model, schema)), layers, { schema, folder: '.', output: '.' });`;
    const child = spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', source, url()], {
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    const exit = new Promise((resolve) => child.once('exit', resolve));
    assert.ok(await until(async () => (await sessions()) > 0, 20_000), 'it probes');
    await new Promise((resolve) => setTimeout(resolve, 500));
    child.kill('SIGKILL');
    await exit;
    assert.ok(await until(async () => (await sessions()) === 0, 5_000), 'its session is gone');
    assert.deepEqual(await connection.rows('SELECT code FROM depot'), []);
  });
});

/** True once it holds; false where it does not within so many milliseconds. */
async function until(holds: () => Promise<boolean>, most: number): Promise<boolean> {
  for (const end = Date.now() + most; Date.now() < end; await new Promise((resolve) => setTimeout(resolve, 100)))
    if (await holds()) return true;
  return false;
}
