import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import type { Browser, BrowserContextOptions, Page } from 'playwright-core';
import { assertAccessible } from '../fixtures/axe.js';
import { openBrowser } from '../fixtures/browser.js';
import { scratchDatabase } from '../fixtures/servers.js';
import { startStudio } from '../fixtures/studio.js';

const wide = { width: 1280, height: 800 };
const phone = { width: 390, height: 844 };
const cups = {
  'Firing tag': 'GL-0901',
  Kiln: 'Old Smoky',
  'Booked by': 'Juno Fairlight',
  'What is fired': 'Cups',
  'Number of pieces': '6',
  'Peak temperature (°C)': '1240',
  Glaze: 'Celadon',
  'Loading day': '2026-05-02',
  Bay: 'B2',
  Level: '3',
  'Helper 1': 'Tomek',
};

async function fill(page: Page, values: { readonly [label: string]: string }): Promise<void> {
  for (const [label, value] of Object.entries(values)) {
    const control = page.getByLabel(label, { exact: true });
    const isSelect = await control.evaluate((one) => one instanceof HTMLSelectElement);
    await (isSelect ? control.selectOption({ label: value }) : control.fill(value));
  }
}

describe('the kiln bookings', () => {
  let browser: Browser;
  let close: () => Promise<void>;
  let studio: Awaited<ReturnType<typeof startStudio>>;
  before(async () => {
    ({ browser, close } = await openBrowser());
    studio = await startStudio();
  });
  after(async () => {
    await close();
    await studio.stop();
  });

  async function opened(path: string, settings: BrowserContextOptions = {}): Promise<Page> {
    const context = await browser.newContext({ baseURL: studio.url, viewport: wide, ...settings });
    const page = await context.newPage();
    page.on('pageerror', (error) => assert.fail(`${path}: ${error.message}`));
    page.on('console', (line) => {
      if (/Content.Security.Policy|TrustedType/i.test(line.text())) assert.fail(`${path}: ${line.text()}`);
    });
    await page.goto(path);
    return page;
  }

  for (const [colorScheme, viewport] of [
    ['light', wide],
    ['dark', wide],
    ['light', phone],
    ['dark', phone],
  ] as const) {
    test(`no page or state has a fault of accessibility: ${colorScheme}, ${viewport.width} wide`, async () => {
      const page = await opened('/firings', { colorScheme, viewport });
      const fits = () => page.evaluate(() => document.documentElement.scrollWidth <= innerWidth);
      const check = async (state: string) => {
        await assertAccessible(page, state);
        assert.equal(await fits(), true, `${state} needs no scrolling sideways`);
      };
      await check('the list');
      for (const path of ['/kilns', '/potters', '/firings/BQ-0016', '/kilns/K01', '/potters/new', '/firings/nothing']) {
        await page.goto(path);
        await check(path);
      }
      await page.goto('/firings/new');
      await check('a new firing');
      await page.getByRole('button', { name: 'Add: Helper' }).click();
      await fill(page, { 'Number of pieces': '41', 'Helper 1': 'Ann', 'Helper 2': 'Ann' });
      await page.getByRole('button', { name: 'Book this firing' }).click();
      await page.locator('.summary').waitFor();
      await check('a firing with faults');
      await page.goto('/kilns/K01');
      await page.getByRole('button', { name: 'Delete this kiln' }).click();
      await page.getByRole('alert').waitFor();
      await check('a kiln that is in use');
      await page.goto('/firings?saved=GL-0003');
      await check('the list after saving');
    });
  }

  test('with script and by keyboard alone: a new firing, a taken tag told at its field, a change, a deletion', async () => {
    const page = await opened('/firings/new');
    await page.locator('.live').waitFor();
    await page.keyboard.press('Tab');
    assert.equal(await page.evaluate(() => document.activeElement?.textContent), 'Skip to the content');
    await page.keyboard.press('Enter');
    for (const text of ['BQ-0001', 'Old Smoky', 'Juno', 'Cups', '6', '1240', 'Cel']) {
      await page.keyboard.press('Tab');
      await page.keyboard.type(text, { delay: 5 });
    }
    for (const key of ['Tab', 'Space', 'Tab', 'Tab']) await page.keyboard.press(key);
    await page.keyboard.type('05022026');
    await page.keyboard.press('Enter');
    await page.locator('#firing-tag-message', { hasText: 'Firing tag is already taken.' }).waitFor();
    assert.equal(await page.evaluate(() => document.activeElement?.className), 'summary');
    await page.keyboard.press('Tab');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Control+A');
    await page.keyboard.type('GL-0900');
    assert.match((await page.locator('.live pre').textContent()) ?? '', /"tag": "GL-0900",\s+"kiln": "K01"/);
    await page.keyboard.press('Enter');
    await page.getByRole('status').waitFor();
    assert.equal(await page.getByRole('status').textContent(), 'GL-0900 is saved.');
    await page.getByRole('link', { name: 'GL-0900' }).press('Enter');
    await page.locator('.live').waitFor();
    assert.equal(await page.getByLabel('Kiln', { exact: true }).inputValue(), 'K01');
    assert.equal(await page.getByLabel('Vent open').isChecked(), true);
    await page.getByLabel('Helper 1').fill('Tomek');
    await page.getByRole('button', { name: 'Add: Helper' }).press('Enter');
    await page.keyboard.type('Ewa');
    await page.keyboard.press('Enter');
    await page.getByRole('status').waitFor();
    const stored = await page.request.get('/firings/GL-0900', { headers: { accept: 'application/json' } });
    assert.deepEqual(((await stored.json()) as { helpers: unknown }).helpers, ['Tomek', 'Ewa']);
    await page.goto('/firings/GL-0900');
    await page.getByRole('button', { name: 'Delete this firing' }).press('Enter');
    assert.equal(await page.getByRole('status').textContent(), 'GL-0900 is deleted.');
  });

  test('with script off: what was sent comes back with every message; then it is stored, changed, and deleted', async () => {
    const page = await opened('/firings/new', { javaScriptEnabled: false });
    assert.equal(await page.getByLabel('Helper 4').count(), 1, 'there are rows to be filled in');
    await fill(page, { ...cups, 'Collection day (optional)': '2026-05-01', 'Helper 3': 'Tomek' });
    await page.getByRole('button', { name: 'Book this firing' }).click();
    assert.deepEqual(await page.locator('.summary a').allTextContents(), [
      'Helper is in the list already.',
      'Collection day breaks the rule "collect after loading".',
    ]);
    assert.equal(await page.evaluate(() => document.activeElement?.className), 'summary');
    assert.equal(
      await page.locator('#firing-collectOn-message').textContent(),
      'Collection day breaks the rule "collect after loading".',
    );
    assert.equal(await page.locator('#firing-helpers-1-message').textContent(), 'Helper is in the list already.');
    for (const [label, value] of Object.entries(cups)) {
      const control = page.getByLabel(label, { exact: true });
      const shown = await control.evaluate((one) =>
        one instanceof HTMLSelectElement ? one.selectedOptions[0]?.text : (one as HTMLInputElement).value,
      );
      assert.equal(shown, value, label);
    }
    await page.locator('.summary a').first().click();
    assert.equal(await page.evaluate(() => document.activeElement?.id), 'firing-helpers-1');
    await fill(page, { 'Collection day (optional)': '2026-05-03', 'Helper 2': 'Ewa' });
    await page.getByRole('button', { name: 'Book this firing' }).click();
    assert.equal(await page.getByRole('status').textContent(), 'GL-0901 is saved.');
    await page.getByRole('link', { name: 'GL-0901' }).click();
    assert.equal(await page.getByLabel('Helper 2').inputValue(), 'Ewa');
    await fill(page, { 'Firing tag': 'BQ-0001' });
    await page.getByRole('button', { name: 'Save changes' }).click();
    assert.equal(await page.locator('#firing-tag-message').textContent(), 'Firing tag is already taken.');
    await fill(page, { 'Firing tag': 'GL-0902', 'Notes (optional)': 'Two\nlines' });
    await page.getByRole('button', { name: 'Save changes' }).click();
    assert.equal(await page.getByRole('status').textContent(), 'GL-0902 is saved.');
    await page.goto('/firings/GL-0902');
    assert.equal(await page.locator('[name=notes]').inputValue(), 'Two\nlines');
    await page.getByRole('button', { name: 'Delete this firing' }).click();
    assert.equal(await page.getByRole('status').textContent(), 'GL-0902 is deleted.');
    await page.goto('/kilns/K01');
    await page.getByRole('button', { name: 'Delete this kiln' }).click();
    assert.equal(
      await page.getByRole('alert').textContent(),
      "K01 can't be deleted. This is still in use: Firing refers to it.",
    );
  });

  test('programs speak JSON: created, read, changed in part, refused with pointers, deleted', async () => {
    const json = { 'content-type': 'application/json', accept: 'application/json' };
    const ask = (path: string, method = 'GET', body?: object) =>
      fetch(`${studio.url}${path}`, {
        method,
        headers: json,
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      });
    const firing = {
      tag: 'GL-0903',
      kiln: 'K02',
      potter: 'ines',
      title: 'Jugs',
      pieces: 3,
      peak: 1000,
      glaze: 'none',
      vented: false,
      loadOn: '2026-06-01',
    };
    const created = await ask('/firings', 'POST', firing);
    assert.deepEqual([created.status, created.headers.get('location')], [201, '/firings/GL-0903']);
    const patched = await ask('/firings/GL-0903', 'PATCH', { helpers: ['Oke'], fee: null, title: ' Tall jugs ' });
    assert.equal(((await patched.json()) as { title: string }).title, 'Tall jugs');
    const refused = await ask('/firings/GL-0903', 'PATCH', { glaze: 'lustre' });
    const { status, violations } = (await refused.json()) as {
      status: number;
      violations: { pointer: string; rule: string }[];
    };
    assert.equal(refused.headers.get('content-type'), 'application/problem+json');
    assert.deepEqual(
      [status, violations.map(({ pointer, rule }) => `${pointer} ${rule}`)],
      [422, ['/vented firing.lustreNeedsVenting']],
    );
    assert.equal((await ask('/firings/GL-0903', 'DELETE')).status, 204);
    assert.equal((await ask('/firings/GL-0903')).status, 404);
    assert.equal((await ask('/kilns/K01', 'DELETE')).status, 409);
    const both = await ask('/firings', 'POST', { ...firing, tag: 'BQ-0001', kiln: 'K99', title: '' });
    const everything = ((await both.json()) as { violations: { rule: string }[] }).violations.map(({ rule }) => rule);
    assert.deepEqual(everything, ['firing.title.required', 'firing.kiln.reference', 'firing.tag.unique']);
    for (const path of [
      '/firings/%00',
      '/firings/%ff',
      '/firings/%ud800',
      '/kilns/K01/delete/x',

      '/firings/new/new',
    ])
      assert.equal((await ask(path)).status, 404, path);
    const strange = await fetch(`${studio.url}/firings`, {
      method: 'POST',
      headers: { ...json, origin: 'http://elsewhere.example' },
      body: '{}',
    });
    assert.equal(strange.status, 403);
  });

  test('the same on a server by its address, twice: the tables are there already, and so are the records', async () => {
    const scratch = await scratchDatabase('postgresql');
    for (const tag of ['GL-0910', 'GL-0911']) {
      const served = await startStudio({ DATABASE_URL: scratch.url });
      const firing = {
        tag,
        kiln: 'K02',
        potter: 'ines',
        title: 'Jugs',
        pieces: 3,
        peak: 1000,
        glaze: 'none',
        vented: false,
        loadOn: `2026-06-${tag.slice(-2)}`,
      };
      const send = () =>
        fetch(`${served.url}/firings`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(firing),
        });
      const answers = await Promise.all(Array.from({ length: 20 }, send));
      assert.deepEqual(answers.map(({ status }) => status).sort(), [201, ...Array.from({ length: 19 }, () => 422)]);
      assert.equal(served.log().includes(scratch.url), false, 'an address is never printed');
      await served.stop();
    }
    await scratch.remove();
  });
});
