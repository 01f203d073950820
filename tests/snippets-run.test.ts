import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { after, before, describe, test } from 'node:test';
import { build } from 'esbuild';
import type { Browser, Page } from 'playwright-core';
import initSqlJs from 'sql.js';
import { firing } from '../examples/kiln-bookings/rules/firing.rules.js';
import { kiln } from '../examples/kiln-bookings/rules/kiln.rules.js';
import { potter } from '../examples/kiln-bookings/rules/potter.rules.js';
import { casesOf } from '../src/compile.js';
import { tableTargets, targets } from '../src/core/targets/index.js';
import { ruleset, validator } from '../src/index.js';
import { formLayer } from '../src/layers/index.js';
import type { Layer } from '../src/layers/layer.js';
import { withNames } from '../src/layers/other-names.js';
import { insertRecord } from '../src/server/index.js';
import { openBrowser } from './fixtures/browser.js';
import { studio as schema } from './fixtures/schema.js';
import { connectMariadb, connectPostgresql, type Scratch, scratchDatabase } from './fixtures/servers.js';
import { saving, snippetsOn } from './fixtures/snippets.js';
import { startStudio } from './fixtures/studio.js';

const example = 'examples/kiln-bookings';
/** Within the repository, so that packages are found by their names. */
const folder = mkdtempSync(join(process.cwd(), 'snippets-run-'));
const rulesets = [kiln, potter, firing];
const settingsStart = `import { settings } from 'echo-rule/config';
import { documentLayer, formLayer, functionLayer, httpLayer, mariadbLayer, pageLayer, postgresqlDocumentLayer, postgresqlLayer, sqliteLayer } from 'echo-rule/layers';
export default settings({ rules: [], output: 'echo',`;

interface Around {
  readonly before?: string;
  readonly after?: string;
  /** What replaces a part that the page leaves to the reader. */
  readonly instead?: readonly (readonly [part: string, text: string])[];
}

/** The code of a page, in the order of the page, with what is around it. */
function codeOf(page: string, at: number, { before: first = '', after: last = '', instead = [] }: Around): string {
  const snippet = snippetsOn(page)[at];
  assert.ok(snippet !== undefined, `${page} has no code ${at}`);
  const whole = instead.reduce((code, [part, text]) => {
    assert.ok(code.includes(part), `${part} in ${page}`);
    return code.replaceAll(part, text);
  }, snippet.code);
  const imports = [...whole.matchAll(/^import .*\n/gm)].map(([line]) => line).join('');
  return `${imports}${first}\n${whole.replace(/^import .*\n/gm, '')}\n${last}\n`;
}

// biome-ignore lint/suspicious/noExplicitAny: a module of a page may export anything
async function run(page: string, at: number, around: Around = {}): Promise<any> {
  const file = join(folder, `${page.replace(/\W/g, '-')}-${at}.tsx`);
  writeFileSync(file, codeOf(page, at, around));
  return import(file);
}

/** What the layers of a page make of the first cases of a ruleset, breakdowns in words. */
async function agreements(
  layers: { readonly [name: string]: Layer },
  name: string,
): Promise<{ readonly [layer: string]: number }> {
  const found: { [layer: string]: number } = {};
  for (const [layer, one] of Object.entries(layers)) {
    if (one.rulesets?.includes(name) === false) continue;
    const opened = await one.open({ schema, folder, output: join(folder, 'echo') });
    try {
      const wire = one.can.wires.includes('json') ? 'json' : one.can.wires[0];
      const cases = casesOf(rulesets).filter(
        (each) => each.ruleset === name && each.criterion === 'edges' && each.wire === wire && each.does === 'insert',
      );
      let agreed = 0;
      for await (const [{ id, expected }, answer] of opened.answer(cases.slice(0, 12))) {
        assert.ok(!('breakdown' in answer), `${layer}, ${id}: ${JSON.stringify(answer)}`);
        if ('accepted' in expected === 'accepted' in answer) agreed += 1;
      }
      found[layer] = agreed;
    } finally {
      await opened.close();
    }
  }
  return found;
}

describe('the code on the pages does what they say', () => {
  let postgresql: Scratch;
  let mariadb: Scratch;
  let client: Awaited<ReturnType<typeof connectPostgresql>>;
  let browser: Browser;
  let close: () => Promise<void>;
  before(async () => {
    ({ browser, close } = await openBrowser());
    for (const part of ['rules', 'echo']) cpSync(join(example, part), join(folder, part), { recursive: true });
    cpSync(join(example, 'rules/kiln.rules.ts'), join(folder, 'kiln.rules.ts'));
    postgresql = await scratchDatabase('postgresql');
    client = await connectPostgresql(postgresql);
    await client.query(readFileSync(join(example, 'echo/postgresql/tables.sql'), 'utf8'));
    mariadb = await scratchDatabase('mariadb');
    const connection = await connectMariadb(mariadb);
    await connection.query(readFileSync(join(example, 'echo/mariadb/tables.sql'), 'utf8'));
    await connection.end();
    process.env.DATABASE_URL = postgresql.url;
    process.env.STUDIO_DATABASE = postgresql.url;
    process.env.MARIADB_URL = mariadb.url;
    await insertRecord(client, kiln, { code: 'K01', name: 'Old Smoky', hottest: 1280 });
    await insertRecord(client, potter, { handle: 'ines', name: 'Ines', memberSince: '2020-02-01', inducted: true });
  });
  after(async () => {
    await close();
    await client.end();
    await postgresql.remove();
    await mariadb.remove();
    rmSync(folder, { recursive: true, force: true });
  });

  const booking = {
    tag: 'BQ-0001',
    kiln: 'K01',
    potter: 'ines',
    title: 'Bowls',
    pieces: 12,
    peak: 1240,
    glaze: 'none',
    vented: false,
    loadOn: '2026-05-01',
    helpers: [],
  };

  describe('rules', () => {
    test('of the first page', async () => {
      const module = await run('README.md', 0);
      const { check } = validator(module.firing);
      const { potter: _potter, title: _title, peak: _peak, ...own } = booking;
      assert.ok(check(own).ok, 'a booking');
      const refused = check({ ...own, glaze: 'lustre', pieces: 31, collectOn: '2026-04-01' });
      assert.deepEqual(refused.ok ? [] : refused.violations.map(({ rule, message }) => `${rule}: ${message}`), [
        'firing.collectAfterLoading: Collect on breaks the rule "collect after loading".',
        'firing.lustreNeedsVenting: Lustre firings need the vent open.',
        'firing.manyPiecesNeedHelp: Pieces breaks the rule "many pieces need help".',
      ]);
    });

    test('of the guide', async () => {
      const declared = await run('docs/guide.md', 0);
      assert.ok(validator(declared.kiln).check({ code: 'K01', name: 'Old Smoky', hottest: 1200 }).ok, 'a kiln');
      const { fields } = await run('docs/guide.md', 1, {
        before: "import { integer, list, record, text } from 'echo-rule';\nexport const fields = {",
        after: '};',
      });
      const part = { name: 'lid', count: 1 };
      assert.ok(validator(ruleset('part', { fields })).check({ helpers: ['ines'], parts: [part] }).ok, 'a part');
      assert.ok(!validator(ruleset('part', { fields })).check({ parts: [part, part] }).ok, 'the key of a list');
      const { tile, tray } = await run('docs/guide.md', 2, {
        before: "import { extend, type HandlesOf, integer, join, ruleset, text } from 'echo-rule';",
      });
      assert.ok(!validator(tile).check({ width: 20, height: 20, glaze: 'ash' }).ok, 'a tile that is too large');
      assert.ok(validator(tray).check({ width: 2, height: 2, depth: 1 }).ok, 'a tray');
    });

    test('checked in process and by the compiled module, in another language', async () => {
      const { messages } = await run('docs/guide.md', 5, {
        before: `import { validator } from 'echo-rule';
import { check } from './echo/javascript/kiln.js';
import { kiln } from './rules/kiln.rules.ts';
const input = { code: 'K01', name: 'Old Smoky', hottest: 5000 };`,
        instead: [
          ['validator(kiln, polish)', 'const one = validator(kiln, polish)'],
          ['check(input, {', 'const other = check(input, {'],
        ],
        after:
          'export const messages = [one, other].map((checked) => (checked.ok ? [] : checked.violations.map(({ message }) => message)));',
      });
      assert.equal(messages[0].length, 1);
      assert.deepEqual(messages[0], messages[1]);
      assert.doesNotMatch(messages[0][0], /must/);
    });
  });

  describe('a server', () => {
    test('checks what comes as JSON', async () => {
      const { save } = await run('docs/guide.md', 4, {
        before: 'export async function save(request: Request, store: (value: unknown) => Promise<void>) {',
        after: '}',
      });
      const stored: unknown[] = [];
      const post = (body: object) =>
        save(new Request('http://localhost/', { method: 'POST', body: JSON.stringify(body) }), async (value: unknown) =>
          stored.push(value),
        );
      assert.equal((await post({ code: 'K01' })).status, 422);
      assert.equal(await post({ code: ' K02 ', name: 'Ember', hottest: 1200 }), undefined);
      assert.deepEqual(stored, [{ code: 'K02', name: 'Ember', hottest: 1200 }]);
    });

    test('takes a form, and shows it again where it is refused', async (context) => {
      const { server } = await run('docs/guide.md', 7, {
        before: `import { createServer } from 'node:http';
import { kiln } from './rules/kiln.rules.ts';
const store = async (value: unknown) => value;
const layout = (html: string) => html;`,
        instead: [
          ['createServer(', 'export const server = createServer('],
          ['8080', "0, '127.0.0.1'"],
        ],
      });
      context.after(() => server.close());
      if (!server.listening) await once(server, 'listening');
      const post = (entries: { readonly [name: string]: string }) =>
        fetch(`http://127.0.0.1:${server.address().port}/`, {
          method: 'POST',
          headers: { accept: 'text/html' },
          body: new URLSearchParams(entries),
        });
      assert.equal((await post({ code: 'K02', name: 'Ember', hottest: '1200' })).status, 201);
      const again = await post({ code: 'K2', name: 'Ember', hottest: '1200' });
      assert.equal(again.status, 422);
      assert.match(await again.text(), /<form[\s\S]*value="K2"[\s\S]*Kiln code/);
    });

    test('stores a record, and says what it broke', async () => {
      const saved = { before: 'export async function save(client: import("pg").Client, checked: any) {', after: '}' };
      const { save } = await run('docs/guide.md', 8, {
        ...saved,
        before: `import { kiln } from './rules/kiln.rules.ts';\n${saved.before}`,
      });
      const value = { code: 'K07', name: 'Cinder', hottest: 1100 };
      assert.equal(await save(client, { value }), undefined);
      assert.equal((await save(client, { value })).status, 422);
      const imports = ['firing', 'kiln', 'potter'].map((name) => `import { ${name} } from './rules/${name}.rules.ts';`);
      const whole = await run('docs/databases.md', 0, { ...saved, before: `${imports.join('\n')}\n${saved.before}` });
      assert.equal(await whole.save(client, { value: booking }), undefined);
      const problem = await (await whole.save(client, { value: booking })).json();
      assert.deepEqual(problem.violations[0], {
        pointer: '/tag',
        rule: 'firing.tag.unique',
        message: 'Firing tag is already taken.',
      });
    });

    test('writes with statements of its own', async () => {
      const { save } = await run('docs/databases.md', 1, {
        before: `import { potter } from './rules/potter.rules.ts';
export async function save(client: import("pg").Client, changed: any) {`,
        instead: [
          ["'UPDATE potters SET …'", "\"UPDATE potters SET email = 'ines@mail.example' WHERE handle = 'ines'\""],
        ],
        after: 'return written; }',
      });
      const { ok } = await save(client, { handle: 'ines', name: 'Ines', email: 'ines@mail.example' });
      assert.ok(ok, 'it is written');
      const { rows } = await client.query("SELECT email FROM potters WHERE handle = 'ines'");
      assert.equal(rows[0].email, 'ines@mail.example');
    });

    test('makes forms with the stored records to choose from', async () => {
      const { forms } = await run('docs/forms.md', 2, {
        before: `import { firing } from './rules/firing.rules.ts';
import { kiln } from './rules/kiln.rules.ts';
import { potter } from './rules/potter.rules.ts';
export async function forms(client: import("pg").Client, record: any, entries: any, violations: any) {
const made: string[] = [];`,
        instead: [['formHtml(firing', 'made[made.length] = formHtml(firing']],
        after: 'return made; }',
      });
      const wrong = { pointer: '/tag', rule: 'firing.tag.pattern', message: 'So not.' };
      const made = await forms(client, booking, { tag: 'BQ' }, [wrong]);
      for (const form of made) assert.match(form, /<option value="K01"/);
      assert.match(made[1], /value="BQ-0001"/);
      assert.match(made[2], /value="BQ"[\s\S]*So not\./);
    });
  });

  describe('settings', () => {
    test('of a project that is probed', async () => {
      const [, , , settings] = snippetsOn('docs/guide.md');
      writeFileSync(join(folder, 'echo-rule.config.ts'), settings?.code ?? '');
      const bin = resolve('dist/cli/bin.js');
      for (const words of [['compile'], ['probe', '--ruleset', 'kiln']]) {
        const { status, stdout, stderr } = spawnSync(process.execPath, [bin, ...words], {
          cwd: folder,
          encoding: 'utf8',
        });
        assert.equal(status, 0, `${words.join(' ')}\n${stdout}\n${stderr}`);
      }
    });

    test('of live databases', async () => {
      const SQL = await initSqlJs();
      const database = new SQL.Database();
      database.run(readFileSync(join(example, 'echo/sqlite/tables.sql'), 'utf8'));
      writeFileSync(join(folder, 'studio.db'), database.export());
      Object.assign(globalThis, { database });
      const module = await run('docs/databases.md', 2, {
        before: `const { database } = globalThis as unknown as { database: import('sql.js').Database };\n${settingsStart}`,
        after: '});',
      });
      const found = await agreements(module.default.layers, 'firing');
      assert.deepEqual(found, { live: 12, also: 12, file: 12, open: 12 });
      database.close();
    });

    test('of layers of your own', async () => {
      for (const part of ['src', 'public', 'db']) mkdirSync(join(folder, part), { recursive: true });
      writeFileSync(join(folder, 'src/save-firing.ts'), saving);
      cpSync(join(example, 'echo/html/firing.html'), join(folder, 'public/firing.html'));
      cpSync(join(example, 'echo/postgresql/tables.sql'), join(folder, 'db/schema.sql'));
      const module = await run('docs/guide.md', 9, { before: settingsStart, after: '});' });
      const found = await agreements(module.default.layers, 'firing');
      assert.equal(found.postgresql, 12);
      // The function of the page accepts whatever is an object.
      assert.ok((found.server ?? 0) > 0 && (found.server ?? 0) < 12, `${found.server}`);
    });

    test('of a form that calls its controls otherwise', async () => {
      const form = readFileSync(join(example, 'echo/html/firing.html'), 'utf8');
      const renamed = form
        .replaceAll('name="loadOn"', 'name="load_on"')
        .replaceAll('name="shelf[bay]"', 'name="bay"')
        .replaceAll(/name="helpers\[[0-9]\]"/g, 'name="helper"');
      writeFileSync(join(folder, 'public/booking.html'), renamed);
      const module = await run('docs/guide.md', 10, { before: `${settingsStart} layers: {`, after: '} });' });
      const own = await agreements(
        { form: formLayer({ files: { firing: resolve(example, 'echo/html/firing.html') } }) },
        'firing',
      );
      assert.ok((own.form ?? 0) > 0, 'the compiled form answers');
      assert.deepEqual(await agreements(module.default.layers, 'firing'), own);
    });

    test('of tables and documents with names of their own', async () => {
      const named = await run('docs/guide.md', 11, { before: `${settingsStart} layers: {`, after: '} });' });
      const documents = await run('docs/guide.md', 12, { before: `${settingsStart} layers: {`, after: '} });' });
      const other = withNames(schema, {
        firing: {
          table: 'bookings',
          columns: { loadOn: 'load_date', 'shelf.bay': 'bay', 'helpers[]': 'helper' },
          lists: { helpers: { table: 'booking_helpers', owner: 'booking', position: 'place' } },
        },
      });
      const [, dropped] = tableTargets.postgresql.emit(schema);
      await client.query(dropped?.text ?? '');
      const [tables, drop] = tableTargets.postgresql.emit(other);
      await client.query(tables?.text ?? '');
      assert.deepEqual(await agreements(named.default.layers, 'firing'), { bookings: 12 });
      await client.query(drop?.text ?? '');
      const [made] = targets['postgresql-documents'].emit(schema);
      // The other collections keep their names.
      const statements = (made?.text ?? '').split(/(?<=;)\n/);
      const renamed = statements.map((statement) =>
        statement.includes('firings_documents')
          ? statement.replaceAll('firings_documents', 'bookings').replaceAll(/\bdocument\b/g, 'body')
          : statement,
      );
      await client.query(renamed.join('\n'));
      assert.ok(((await agreements(documents.default.layers, 'firing')).documents ?? 0) > 0, 'documents');
    });

    test('of an interface and a page', async () => {
      const studio = await startStudio();
      process.env.STUDIO_TOKEN = 'none';
      const there: Around = {
        before: `${settingsStart} layers: {`,
        after: '} });',
        instead: [['http://127.0.0.1:4173', studio.url]],
      };
      try {
        const module = await run('docs/guide.md', 13, there);
        assert.ok(((await agreements(module.default.layers, 'kiln')).interface ?? 0) > 9, 'the interface');
        mkdirSync(join(folder, 'public'), { recursive: true });
        const form = readFileSync(join(example, 'echo/html/kiln.html'), 'utf8');
        writeFileSync(join(folder, 'public/kiln.html'), form.replace('</form>', '<button>Save</button></form>'));
        const pages = await run('docs/guide.md', 14, there);
        for (const name of ['kiln', 'firing'])
          assert.ok(((await agreements(pages.default.layers, name)).page ?? 0) > 6, name);
      } finally {
        await studio.stop();
      }
    });
  });

  describe('in a browser', () => {
    /** A page with the form of a ruleset and the code, which has what it fetches answered. */
    async function opened(form: string, code: string): Promise<{ readonly page: Page; readonly sent: string[] }> {
      const made = await build({
        stdin: { contents: code, resolveDir: folder, loader: 'tsx' },
        bundle: true,
        format: 'esm',
        jsx: 'automatic',
        outdir: 'none',
        write: false,
      });
      const [script, style] = ['.js', '.css'].map(
        (ending) => made.outputFiles.find(({ path }) => path.endsWith(ending))?.text ?? '',
      );
      const sent: string[] = [];
      const page = await browser.newPage();
      await page.route('http://studio.example/**', async (route) => {
        const request = route.request();
        if (request.method() !== 'POST')
          return route.fulfill({
            contentType: 'text/html; charset=utf-8',
            body: `<!doctype html><title>Form</title><style>${style}</style><main>${form}</main><script type="module">${script}</script>`,
          });
        sent.push(request.postData() ?? '');
        const violations = [{ pointer: '/tag', rule: 'firing.tag.unique', message: 'Firing tag is already taken.' }];
        return route.fulfill({
          status: 422,
          contentType: 'application/problem+json',
          body: JSON.stringify({ violations }),
        });
      });
      await page.goto('http://studio.example/');
      return { page, sent };
    }

    const formOf = (name: string) =>
      readFileSync(join(example, `echo/html/${name}.html`), 'utf8').replace('</form>', '<button>Save</button></form>');

    test('a form reports what is wrong before it is sent, and what the server answers', async () => {
      const { page, sent } = await opened(
        formOf('firing')
          .replace(/<select id="firing-kiln"[\s\S]*?<\/select>/, '<input id="firing-kiln" name="kiln">')
          .replace(/<select id="firing-potter"[\s\S]*?<\/select>/, '<input id="firing-potter" name="potter">'),
        codeOf('docs/forms.md', 0, {}),
      );
      await page.fill('[name="tag"]', 'wrong');
      await page.click('button:has-text("Save")');
      assert.notEqual((await page.textContent('#firing-tag-message'))?.trim(), '');
      assert.deepEqual(sent, []);
      for (const [name, value] of Object.entries(booking)) {
        // An unticked box says no, and a list may be empty.
        if (Array.isArray(value) || value === false) continue;
        const control = page.locator(`[name="${name}"]`).first();
        if (name === 'glaze') await control.selectOption(String(value));
        else await control.fill(String(value));
      }
      await page.click('button:has-text("Save")');
      await page.waitForFunction(() => document.querySelector('#firing-tag-message')?.textContent?.includes('taken'));
      assert.equal(JSON.parse(sent[0] ?? '{}').tag, 'BQ-0001');
      await page.close();
    });

    test('a made form is bound by its ruleset', async () => {
      const { page } = await opened(formOf('kiln'), codeOf('docs/guide.md', 6, {}));
      await page.fill('[name="hottest"]', '12');
      await page.click('button:has-text("Save")');
      assert.match((await page.textContent('#kiln-hottest-message')) ?? '', /900/);
      await page.close();
    });

    test('a form of React is bound', async () => {
      const { page } = await opened(
        '',
        codeOf('docs/forms.md', 1, {
          before: "import { createRoot } from 'react-dom/client';",
          instead: [['…', '<input name="tag" /><button>Save</button>']],
          after:
            "const main = document.querySelector('main'); if (main !== null) createRoot(main).render(<FiringForm />);",
        }),
      );
      await page.fill('[name="tag"]', 'wrong');
      await page.click('button:has-text("Save")');
      await page.waitForSelector('form[data-wrong="true"]');
      await page.close();
    });
  });
});
