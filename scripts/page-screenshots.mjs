// The pages of the examples and their states, at 1280x800 and as a phone shows them.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { build, preview } from 'vite';

const wide = { width: 1280, height: 800 };
const phone = { width: 390, height: 844 };

async function faults(page) {
  await page.getByLabel('Firing tag').fill('bq-1');
  await page.getByLabel('Kiln').selectOption('K01');
  await page.getByLabel('What is fired').fill('  Cups ');
  await page.getByLabel('Number of pieces').fill('41');
  await page.getByLabel('Peak').fill('740');
  await page.getByLabel('Glaze').selectOption('lustre');
  await page.getByLabel('Loading day').fill('2026-05-02');
  await page.getByLabel('Collection day').fill('2026-05-01');
  await page.getByRole('button', { name: 'Book this firing' }).click();
  await page.locator('.summary').waitFor();
}

/** Without script the attributes let through what only rules over several fields, or the server, know. */
async function faultsOfTheWhole(page) {
  await page.getByLabel('Firing tag').fill('BQ-0001');
  await page.getByLabel('Kiln').selectOption('K01');
  await page.getByLabel('Booked by').selectOption('ines');
  await page.getByLabel('What is fired').fill('Cups');
  await page.getByLabel('Number of pieces').fill('34');
  await page.getByLabel('Peak').fill('740');
  await page.getByLabel('Glaze').selectOption('lustre');
  await page.getByLabel('Loading day').fill('2026-05-02');
  await page.getByLabel('Collection day').fill('2026-05-01');
  await page.getByRole('button', { name: 'Book this firing' }).click();
  await page.locator('.summary').waitFor();
}

async function inUse(page) {
  await page.getByRole('button', { name: 'Delete this kiln' }).click();
  await page.getByRole('alert').waitFor();
}

async function ready(page) {
  await page.waitForFunction(() => 'ready' in document.documentElement.dataset, null, { timeout: 120_000 });
  await page.waitForFunction(() => {
    const [done, all] = document.getElementById('count').textContent.match(/\d+/g) ?? ['', '-'];
    return done === all;
  });
}

async function otherRules(page) {
  await ready(page);
  const source = page.locator('#source');
  await source.fill((await source.inputValue()).replace('min: 1, max: 40', 'minimum: 1, max: 40'));
  await page.getByRole('button', { name: 'Use these rules' }).click();
  await page.locator('#problems', { hasText: /./ }).waitFor();
}

const studio = [
  ['studio-list', '/firings'],
  ['studio-faults', '/firings/new', faults],
  ['studio-faults-dark', '/firings/new', faults, { colorScheme: 'dark' }],
  ['studio-script-off', '/firings/new', faultsOfTheWhole, { javaScriptEnabled: false }],
  ['studio-change', '/firings/BQ-0016'],
  ['studio-in-use', '/kilns/K01', inUse],
  ['studio-faults-phone', '/firings/new', faults, { viewport: phone }],
];
const bench = [
  ['bench-of-layers', '/', ready],
  ['bench-of-layers-dark', '/', ready, { colorScheme: 'dark' }],
  ['bench-of-layers-problem', '/', otherRules],
];

async function take(browser, root, url, shots) {
  for (const [name, path, act = async () => {}, settings = {}] of shots) {
    const context = await browser.newContext({ baseURL: url, viewport: wide, colorScheme: 'light', ...settings });
    const page = await context.newPage();
    await page.goto(path);
    await page.waitForLoadState('networkidle');
    await act(page);
    await page.screenshot({ path: join(root, `docs/screenshots/${name}.png`) });
    await context.close();
  }
}

/** Builds and starts both examples, and takes their pictures. */
export async function pictures(browser, root) {
  await build({ configFile: join(root, 'examples/kiln-bookings/vite.config.ts'), logLevel: 'error' });
  const server = spawn(process.execPath, ['--import', 'tsx', 'examples/kiln-bookings/server/start.ts'], {
    cwd: root,
    env: { ...process.env, PORT: '0', DATABASE_URL: undefined },
  });
  const url = await new Promise((resolve, reject) => {
    server.stdout.on('data', (chunk) => {
      const found = /http:\S+?(?=\/\s)/.exec(chunk);
      if (found !== null) resolve(found[0]);
    });
    server.once('exit', (code) => reject(new Error(`the studio ended with ${code}`)));
  });
  await take(browser, root, url, studio);
  server.kill();

  const configFile = join(root, 'examples/bench-of-layers/vite.config.ts');
  await build({ configFile, logLevel: 'silent' });
  const served = await preview({ configFile, logLevel: 'silent', preview: { port: 0, host: '127.0.0.1' } });
  const [address] = [...served.resolvedUrls.local, ...served.resolvedUrls.network];
  await take(browser, root, address, bench);
  await served.close();
}
