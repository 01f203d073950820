import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import type { Browser, Page } from 'playwright-core';
import { build, type PreviewServer, preview } from 'vite';
import { assertAccessible } from '../fixtures/axe.js';
import { openBrowser } from '../fixtures/browser.js';

const configFile = 'examples/bench-of-layers/vite.config.ts';

describe('the bench of layers', () => {
  let browser: Browser;
  let close: () => Promise<void>;
  let server: PreviewServer;
  before(async () => {
    await build({ configFile, logLevel: 'silent' });
    server = await preview({ configFile, logLevel: 'silent', preview: { port: 0, host: '127.0.0.1' } });
    ({ browser, close } = await openBrowser());
  });
  after(async () => {
    await close();
    await server.close();
  });

  async function opened(settings = {}): Promise<Page> {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, ...settings });
    const page = await context.newPage();
    page.on('pageerror', (error) => assert.fail(error.message));
    await page.goto(server.resolvedUrls?.local[0] ?? server.resolvedUrls?.network[0] ?? '');
    await page.waitForFunction(() => 'ready' in document.documentElement.dataset, null, { timeout: 120_000 });
    return page;
  }
  /** What the layers say of what is typed. */
  const verdicts = async (page: Page, text: string) => {
    await page
      .locator('#cards article')
      .first()
      .evaluate((card) => card.remove());
    await page.locator('#value').fill(text);
    await page.waitForFunction(() => document.querySelectorAll('#cards article[data-says]').length === 4);
    return page
      .locator('#cards article')
      .evaluateAll((cards) => cards.map((card) => (card as HTMLElement).dataset.says));
  };
  const counted = async (page: Page) => {
    await page.waitForFunction(
      () => {
        const [done, all] = document.getElementById('count')?.textContent?.match(/\d+/g) ?? ['', '-'];
        return done === all;
      },
      null,
      { timeout: 60_000 },
    );
    return (await page.locator('#count').textContent()) ?? '';
  };

  test('every case of every field is answered by every layer, and none disagrees', async () => {
    const page = await opened();
    const counts: string[] = [];
    for (const field of await page.locator('#field option').allTextContents()) {
      await page.locator('#count').evaluate((place) => {
        place.textContent = '';
      });
      await page.locator('#field').selectOption({ label: field });
      const count = await counted(page);
      assert.match(count, / 0 disagree\.$/, field);
      counts.push(`${field} ${count}`);
      assert.equal(await page.locator('#grid td:text-is("…")').count(), 0, 'every cell is filled');
    }
    assert.equal(counts.length, 8);
    console.log(counts.join('\n'));
  });

  test('what is typed is answered at once; other rules are followed by every layer; a case can be tried', async () => {
    const page = await opened();
    await page.locator('#field').selectOption('pieces');
    assert.deepEqual(await verdicts(page, '40'), ['accepts', 'accepts', 'accepts', 'accepts']);
    assert.deepEqual(await verdicts(page, '45'), ['refuses', 'refuses', 'refuses', 'refuses']);
    const source = page.locator('#source');
    const text = await source.inputValue();
    await source.fill(text.replace('max: 40', 'max: 50'));
    await source.press('Control+Enter');
    await page.locator('#loaded', { hasText: /cases/ }).waitFor();
    await page.waitForFunction(() => /50/.test(document.getElementById('grid')?.textContent ?? ''));
    assert.deepEqual(await verdicts(page, '45'), ['accepts', 'accepts', 'accepts', 'accepts']);
    assert.match(await counted(page), / 0 disagree\.$/);
    await page.getByRole('button', { name: '"51"' }).click();
    assert.equal(await page.locator('#value').inputValue(), '51');
    assert.deepEqual(await verdicts(page, '51'), ['refuses', 'refuses', 'refuses', 'refuses']);
  });

  test('rules that are none are told with their mend, and the layers keep those of before', async () => {
    const page = await opened();
    const source = page.locator('#source');
    const text = await source.inputValue();
    for (const [wrong, words] of [
      [text.replace('min: 1', 'minimum: 1'), /minimum/],
      [text.replace('ruleset(', 'ruleset(('), /Unexpected|missing/],
      ['const nothing = 1;', /Nothing is exported/],
    ] as const) {
      await source.fill(wrong);
      await page.getByRole('button', { name: 'Use these rules' }).click();
      await page.locator('#problems', { hasText: words }).waitFor();
    }
    assert.deepEqual(await verdicts(page, '40'), ['accepts', 'accepts', 'accepts', 'accepts']);
    await assertAccessible(page, 'with a problem');
  });

  for (const colorScheme of ['light', 'dark']) {
    for (const viewport of [
      { width: 1280, height: 800 },
      { width: 390, height: 844 },
    ])
      test(`no fault of accessibility: ${colorScheme}, ${viewport.width} wide`, async () => {
        const page = await opened({ colorScheme, viewport });
        await counted(page);
        await assertAccessible(page, 'the bench');
        assert.equal(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth), true);
      });
  }
});
