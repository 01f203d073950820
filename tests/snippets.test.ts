import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { after, describe, test } from 'node:test';
import { kiln } from '../examples/kiln-bookings/rules/kiln.rules.js';
import { potter } from '../examples/kiln-bookings/rules/potter.rules.js';
import { insertRecord } from '../src/server/index.js';
import { connectPostgresql, scratchDatabase } from './fixtures/servers.js';
import { frames, type Snippet, saving, snippetsOn } from './fixtures/snippets.js';

/** Within the repository, so that packages are found by their names. */
const folder = mkdtempSync(join(process.cwd(), 'snippets-'));
const example = 'examples/kiln-bookings';

/** So many records are sent at once. */
const AT_ONCE = 16;

function firingOn(at: number) {
  const day = String(at + 1).padStart(2, '0');
  const rest = { kiln: 'K01', potter: 'ines', title: 'Bowls', pieces: 12, peak: 1240, glaze: 'none', vented: false };
  return { tag: `BQ-00${day}`, loadOn: `2026-05-${day}`, ...rest };
}

function fileOf({ page, line }: Snippet): string {
  return `${page.replace(/\W/g, '-')}-line-${line}.tsx`;
}

describe('the code on the pages', () => {
  after(() => rmSync(folder, { recursive: true, force: true }));

  test('each has its surroundings', () => {
    for (const [page, own] of Object.entries(frames)) assert.equal(snippetsOn(page).length, own.length, page);
  });

  test('compiles under strict', () => {
    for (const part of ['rules', 'echo']) cpSync(join(example, part), join(folder, part), { recursive: true });
    cpSync(join(example, 'rules/kiln.rules.ts'), join(folder, 'kiln.rules.ts'));
    for (const [page, own] of Object.entries(frames))
      for (const [at, snippet] of snippetsOn(page).entries()) {
        const { before = '', after: behind = '' } = own[at] ?? {};
        const imports = [...snippet.code.matchAll(/^import .*\n/gm)].map(([line]) => line).join('');
        const code = snippet.code.replace(/^import .*\n/gm, '');
        writeFileSync(join(folder, fileOf(snippet)), `${imports}${before}${code}${behind}`);
      }
    mkdirSync(join(folder, 'src'));
    writeFileSync(join(folder, 'src/save-firing.ts'), saving);
    writeFileSync(join(folder, 'styles.d.ts'), "declare module '*.css';\n");
    writeFileSync(
      join(folder, 'tsconfig.json'),
      JSON.stringify({
        compilerOptions: {
          target: 'es2024',
          lib: ['es2023', 'dom', 'dom.iterable'],
          module: 'nodenext',
          jsx: 'react-jsx',
          strict: true,
          noUncheckedIndexedAccess: true,
          exactOptionalPropertyTypes: true,
          allowImportingTsExtensions: true,
          skipLibCheck: true,
          types: ['node'],
          noEmit: true,
        },
        include: ['.'],
      }),
    );
    const { status, stdout } = spawnSync('npx', ['tsc', '-p', folder], { encoding: 'utf8' });
    assert.equal(status, 0, stdout);
  });

  test('the documented server stores what many send at once', async (context) => {
    const scratch = await scratchDatabase('postgresql');
    const client = await connectPostgresql(scratch);
    await client.query(readFileSync(join(example, 'echo/postgresql/tables.sql'), 'utf8'));
    await insertRecord(client, kiln, { code: 'K01', name: 'Old Smoky', hottest: 1280 });
    await insertRecord(client, potter, { handle: 'ines', name: 'Ines', memberSince: '2020-02-01', inducted: true });
    const [snippet] = snippetsOn('docs/server.md');
    assert.ok(snippet !== undefined, 'the page has a server');
    process.env.DATABASE_URL = scratch.url;
    process.env.PORT = '0';
    const { server, pool } = await import(join(folder, fileOf(snippet)));
    context.after(async () => {
      server.close();
      await pool.end();
      await client.end();
      await scratch.remove();
    });
    await once(server, 'listening');
    const address = `http://127.0.0.1:${server.address().port}/`;
    const send = (at: number) =>
      fetch(address, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(firingOn(at)),
      });
    const answers = await Promise.all(Array.from({ length: AT_ONCE }, (_, at) => send(at)));
    const statuses = await Promise.all(answers.map(async (one) => `${one.status} ${one.ok ? '' : await one.text()}`));
    assert.deepEqual(statuses, Array(AT_ONCE).fill('201 '));
    const { rows } = await client.query('SELECT count(*)::integer AS stored FROM firings');
    assert.equal(rows[0].stored, AT_ONCE);
  });
});
