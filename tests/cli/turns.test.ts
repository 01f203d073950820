import assert from 'node:assert/strict';
import { spawn } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { after, before, describe, test } from 'node:test';
import { runIn } from '../fixtures/command-line.js';
import { temporaryFolder } from '../fixtures/project.js';

const files = {
  'echo-rule.config.ts': `import { settings } from 'echo-rule/config';
export default settings({ rules: ['*.rules.ts'], output: 'echo', layers: {} });
`,
  'shelf.rules.ts': `import { integer, ruleset, text } from 'echo-rule';
export const shelf = ruleset('shelf', { key: 'code', fields: { code: text({ maxLength: 4 }), level: integer({ max: 6 }) } });
`,
};

/** Files that several runs write at once. */
const many = Array.from({ length: 40 }, (_, at) => `sqlite/part${at}.sql`);

/** A process that is over, or one that lasts until it is killed. */
function processWith(source: string) {
  const child = spawn(process.execPath, ['-e', source]);
  return { pid: child.pid ?? 0, ended: new Promise((resolve) => child.once('exit', resolve)), child };
}

describe('runs that write into one folder', () => {
  const { folder, remove } = temporaryFolder(files);
  const echo = (...words: readonly string[]) => runIn(folder, join(folder, 'echo-rule.config.ts'), words);
  const output = join(folder, 'echo');
  const turn = join(output, '.echo-rule-turn');
  const left = () =>
    readdirSync(output, { recursive: true, encoding: 'utf8' }).filter((file) => file.includes('.echo-rule-'));
  before(async () => assert.equal((await echo('compile')).code, 0));
  after(remove);

  test('several at once take turns: each ends well, and nothing is left of them', async () => {
    const results = await Promise.all([1, 2, 3].map((number) => spawned(output, number)));
    assert.deepEqual(results, [0, 0, 0]);
    assert.deepEqual(left(), []);
    const numbers = many.map((path) => /number (\d)/.exec(readFileSync(join(output, path), 'utf8'))?.[1]);
    assert.equal(new Set(numbers).size, 1, 'the last one wrote all of them');
    for (const path of many) rmSync(join(output, path));
  });

  test('what a run that was killed left behind is removed by the next', async () => {
    const over = processWith('');
    await over.ended;
    const tables = join(output, 'sqlite/tables.sql');
    const sound = readFileSync(tables, 'utf8');
    writeFileSync(`${tables}.echo-rule-part`, sound.slice(0, 40));
    writeFileSync(turn, `${over.pid}\n`);
    assert.equal((await echo('compile')).code, 0);
    assert.deepEqual(left(), []);
    assert.equal(readFileSync(tables, 'utf8'), sound);
  });

  test('a run that does not end is waited for, then named, and nothing is written', async () => {
    const lasting = processWith('setInterval(() => {}, 1000)');
    writeFileSync(turn, `${lasting.pid}\n`);
    try {
      const { code, notes } = await echo('compile');
      assert.equal(code, 2);
      assert.match(notes, /\[another_runs\][\s\S]*Nothing was written[\s\S]*\.echo-rule-turn/);
      assert.ok(existsSync(turn), 'it keeps its turn');
      const long = new Date(Date.now() - 120_000);
      utimesSync(turn, long, long);
      assert.equal((await echo('compile')).code, 0, 'a turn of two minutes is none');
    } finally {
      lasting.child.kill('SIGKILL');
      await lasting.ended;
    }
  });
});

/** Writes the same files as others do at the same time, in a process of its own; gives its exit code. */
async function spawned(output: string, number: number): Promise<number | null> {
  const room = join(import.meta.dirname, '../../src/cli/made-files.ts');
  const source = `
    const { sealed, writeMade } = await import(${JSON.stringify(room)});
    while (Date.now() < ${Date.now() + 3000});
    for (let round = 0; round < 10; round += 1)
      writeMade(${JSON.stringify(output)}, ${JSON.stringify(many)}.map((path) =>
        sealed(path, 'number ${number} of round ' + round, ['shelf.rules.ts'], ['-- ', ''])), false);`;
  const child = spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', source], {
    stdio: ['ignore', 'ignore', 'inherit'],
    cwd: join(import.meta.dirname, '../..'),
  });
  return new Promise((resolve) => child.once('exit', resolve));
}
