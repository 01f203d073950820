import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { after, describe, test } from 'node:test';
import { temporaryFolder } from './fixtures/project.js';

/** An empty project, with nothing of this repository but the packed package. */
const { folder, remove } = temporaryFolder({
  'package.json': '{ "name": "empty", "private": true, "type": "module" }',
  'kiln.rules.ts': `import { integer, ruleset, text } from 'echo-rule';
export const kiln = ruleset('kiln', { key: 'code', fields: { code: text({ pattern: /K[0-9]{2}/ }), hottest: integer({ max: 1400 }) } });
`,
  'echo-rule.config.ts': `import { settings } from 'echo-rule/config';
import { formLayer, functionLayer, sqliteLayer } from 'echo-rule/layers';
export default settings({
  rules: ['*.rules.ts'],
  output: 'echo',
  layers: { server: functionLayer(), form: formLayer(), sqlite: sqliteLayer() },
});
`,
  'use.mjs': `import { ruleset, text, validator } from 'echo-rule';
import { bind } from 'echo-rule/browser';
import { compile } from 'echo-rule/compile';
import { endpoint, formHtml } from 'echo-rule/server';
import { check } from './echo/javascript/kiln.js';
const own = ruleset('own', { fields: { a: text() } });
const response = await endpoint(own, { save: async (value) => Response.json(value) })(
  new Request('http://localhost/', { method: 'POST', body: 'a=', headers: { 'content-type': 'application/x-www-form-urlencoded' } }),
);
if (response.status !== 422 || typeof bind !== 'function' || compile([own]).files.length < 5) throw new Error('not whole');
if (!formHtml(own).includes('<form')) throw new Error('no form');
console.log(JSON.stringify([validator(own).check({ a: ' b ' }), check({ code: 'K01', hottest: 1401 })]));
`,
  'use.ts': `import { type AcceptedOf, ruleset, text } from 'echo-rule';
import { settings } from 'echo-rule/config';
import { sqliteLayer } from 'echo-rule/layers';
import { bind, violationsIn } from 'echo-rule/browser';
import { endpoint, violationsFrom, type Written } from 'echo-rule/server';
import * as rules from './echo/javascript/kiln.js';
import { check } from './echo/javascript/kiln.js';
const own = ruleset('own', { fields: { a: text() } });
export const value: AcceptedOf<typeof own> = { a: 'b' };
export const said = settings({ rules: ['a'], output: 'b', layers: { sqlite: sqliteLayer() } });
const checked = check({});
export const told = (error: unknown): Written<number> => ({ ok: false, violations: violationsFrom(error, own) });
export const bound = (form: HTMLFormElement) =>
  bind(form, rules, { send: async (kiln) => violationsIn(await fetch(kiln.code)) });
export const answer = endpoint<{ readonly code: string }>(own, {
  rules,
  save: async ({ code }) => new Response(code),
});
export const code: string | null = checked.ok ? checked.value.code : null;
`,
});

function runIn(cwd: string, command: string, ...words: readonly string[]) {
  const { status, stdout, stderr } = spawnSync(command, words, { cwd, encoding: 'utf8' });
  return { status, stdout, stderr };
}

describe('the packed package', () => {
  after(remove);

  test('installs into an empty project and works there', () => {
    const packed = runIn(process.cwd(), 'npm', 'pack', '--ignore-scripts', '--json', '--pack-destination', folder);
    assert.equal(packed.status, 0, packed.stderr);
    const [{ filename, files }] = JSON.parse(packed.stdout) as [{ filename: string; files: { path: string }[] }];
    const paths = files.map(({ path }) => path);
    for (const path of ['LICENSE', 'README.md', 'dist/index.d.ts', 'dist/cli/bin.js'])
      assert.ok(paths.includes(path), path);
    assert.deepEqual(
      paths.filter(
        (path) =>
          !/^(?:dist\/|schemas\/case\.schema\.json$|LICENSE$|README\.md$|CHANGELOG\.md$|package\.json$)/.test(path),
      ),
      [],
    );

    const driver = (JSON.parse(readFileSync('package.json', 'utf8')) as { devDependencies: { [name: string]: string } })
      .devDependencies['sql.js'];
    const installed = runIn(
      folder,
      'npm',
      'install',
      '--no-audit',
      '--no-fund',
      '--prefer-offline',
      join(folder, filename),
      `sql.js@${driver}`,
    );
    assert.equal(installed.status, 0, installed.stderr);

    const bin = join(folder, 'node_modules/.bin/echo-rule');
    const compiled = runIn(folder, bin, 'compile');
    assert.equal(compiled.status, 0, compiled.stderr);
    const probed = runIn(folder, bin, 'probe');
    assert.equal(probed.status, 0, probed.stdout + probed.stderr);
    assert.match(probed.stdout, /All layers agree/);

    const used = runIn(folder, process.execPath, 'use.mjs');
    assert.deepEqual(JSON.parse(used.stdout), [
      { ok: true, value: { a: 'b' } },
      {
        ok: false,
        violations: [{ pointer: '/hottest', rule: 'kiln.hottest.max', message: 'Hottest must be 1400 or less.' }],
      },
    ]);
    const compiler = resolve('node_modules/typescript/bin/tsc');
    const typed = runIn(
      folder,
      process.execPath,
      compiler,
      '--noEmit',
      '--strict',
      '--module',
      'nodenext',
      '--target',
      'es2022',
      '--types',
      '',
      'use.ts',
    );
    assert.equal(typed.status, 0, typed.stdout);
  });
});
