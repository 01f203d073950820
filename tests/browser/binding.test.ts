import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import { integer, list, record, ruleset, text } from 'echo-rule';
import { polish } from 'echo-rule/languages';
import type { Browser, Page } from 'playwright-core';
import { formText } from '../../src/core/targets/index.js';
import { moduleText } from '../../src/core/targets/javascript/emit.js';
import { bundled, openBrowser, servePages } from '../fixtures/browser.js';
import { everyKind, modelIn, studio } from '../fixtures/schema.js';

const trays = ruleset('trays', {
  fields: {
    trays: list(
      record({ name: text(), sizes: list(integer({ min: 1, label: 'Size' }), { maxItems: 3 }) }, { label: 'Tray' }),
      { minItems: 1 },
    ),
  },
}).model;
const firing = modelIn(studio, 'firing');
const order = modelIn(everyKind, 'order');
const options = { kiln: [['K01', 'Old Smoky'] as const], potter: [['ines', 'Inés Marrow'] as const] };
const page = (form: string, script: string) =>
  `<!doctype html><html lang="en"><title>form</title><main>${form}</main><script type="module" src="/${script}.js"></script></html>`;
const binding = (module: string) => `
  import { bind } from './src/browser/index.ts';
  import * as rules from '/${module}.rules.js';
  globalThis.answer = async () => undefined;
  globalThis.sent = [];
  globalThis.bound = bind(document.forms[0], rules, {
    clock: { instant: '2026-03-02T09:00:00Z' },
    live: (checked) => { globalThis.checked = checked; },
    send: (value) => { globalThis.sent.push(value); return globalThis.answer(); },
  });
  globalThis.ready = true;
`;
const stored = {
  tag: 'GL-0099',
  kiln: 'K01',
  potter: 'ines',
  title: 'Cups',
  pieces: 6,
  peak: 1240,
  glaze: 'none',
  vented: true,
  fee: null,
  loadOn: '2026-05-02',
  collectOn: null,
  shelf: null,
  helpers: [],
  notes: null,
};
const changing = `
  import { bind } from './src/browser/index.ts';
  import * as rules from '/firing.rules.js';
  globalThis.sent = [];
  bind(document.forms[0], rules, {
    existing: ${JSON.stringify(stored)},
    shown: ['glaze', 'vented'],
    send: async (value) => { globalThis.sent.push(value); },
  });
  globalThis.ready = true;
`;
const inReact = `
  import { createElement as e, useState } from 'react';
  import { createRoot } from 'react-dom/client';
  import { useBoundForm } from './src/browser/react.ts';
  import * as rules from '/kiln.rules.js';
  function Form() {
    const [count, setCount] = useState(0);
    const { form, checked } = useBoundForm(rules, { send: async (value) => { globalThis.sent = value; setCount(count + 1); } });
    const input = (name) => e('p', { key: name }, e('label', {}, name, e('input', { name, id: name })));
    return e('form', { ref: form }, ['code', 'name', 'hottest'].map(input),
      e('output', {}, checked === null ? 'nothing' : checked.ok ? 'right' : checked.violations.length + ' wrong'),
      e('b', {}, 'sent ' + count), e('button', {}, 'Save'));
  }
  createRoot(document.querySelector('main')).render(e(Form));
  globalThis.ready = true;
`;

/** What scripts of the page have put where tests find it. */
interface Probe {
  answer: () => Promise<readonly object[] | undefined>;
  sent: unknown[];
  bound: { show(violations: readonly object[]): void; unbind(): void };
  checked: { readonly ok: boolean };
}

describe('a form that is bound to its rules', () => {
  let browser: Browser;
  let close: () => Promise<void>;
  let pages: Awaited<ReturnType<typeof servePages>>;
  before(async () => {
    ({ browser, close } = await openBrowser());
    pages = await servePages({
      '/firing.html': page(formText(firing, { options }), 'firing'),
      '/firing.js': await bundled(binding('firing')),
      '/firing.rules.js': moduleText(firing),
      '/order.html': page(formText(order), 'order'),
      '/order.js': await bundled(binding('order')),
      '/order.rules.js': moduleText(order),
      '/trays.html': page(formText(trays, { catalogue: polish }), 'trays'),
      '/trays.js': await bundled(binding('trays')),
      '/trays.rules.js': moduleText(trays),
      '/part.html': page(formText(firing, { record: stored, fields: ['glaze', 'vented'] }), 'part'),
      '/part.js': await bundled(changing),
      '/react.html': page('', 'react'),
      '/react.js': await bundled(inReact),
      '/kiln.rules.js': moduleText(modelIn(studio, 'kiln')),
      '/plain.html': page(
        '<form><input name="code"><input name="name"><input name="hottest"><button>Save</button></form>',
        'plain',
      ),
      '/plain.js': await bundled(binding('kiln')),
    });
  });
  after(async () => {
    await close();
    await pages.close();
  });

  async function opened(name = 'firing', settings = {}): Promise<Page> {
    const context = await browser.newContext(settings);
    const tab = await context.newPage();
    tab.on('pageerror', (error) => assert.fail(`${name}: ${error.message}`));
    await tab.goto(`${pages.url}/${name}.html`);
    await tab.waitForFunction(() => 'ready' in globalThis);
    return tab;
  }
  const message = (tab: Page, id: string) => tab.locator(`[id="${id}-message"]`).textContent();
  const focused = (tab: Page) => tab.evaluate(() => document.activeElement?.id || document.activeElement?.className);
  /** What a screen reader is told of a control. */
  const exposed = async (tab: Page, id: string) => {
    const session = await tab.context().newCDPSession(tab);
    const { root } = await session.send('DOM.getDocument');
    const { nodeId } = await session.send('DOM.querySelector', { nodeId: root.nodeId, selector: `[id="${id}"]` });
    const { nodes } = await session.send('Accessibility.getPartialAXTree', { nodeId, fetchRelatives: false });
    const [node] = nodes;
    const invalid = node?.properties?.find(({ name }) => name === 'invalid')?.value.value;
    return { name: node?.name?.value, description: node?.description?.value, invalid };
  };
  const fill = async (tab: Page, values: { readonly [label: string]: string }) => {
    for (const [label, value] of Object.entries(values)) {
      const control = tab.getByLabel(label, { exact: true });
      const isSelect = await control.evaluate((one) => one instanceof HTMLSelectElement);
      await (isSelect ? control.selectOption(value) : control.fill(value));
    }
  };
  const valid = {
    'Firing tag': 'GL-0099',
    Kiln: 'K01',
    'Booked by': 'ines',
    'What is fired': ' Cups ',
    'Number of pieces': '6',
    'Peak temperature (°C)': '1240',
    Glaze: 'none',
    'Loading day': '2026-05-02',
  };

  test('says nothing while a field is typed, speaks when it is left, and is silent as soon as it is mended', async () => {
    const tab = await opened();
    await tab.getByLabel('Firing tag').click();
    await tab.keyboard.type('bq-1');
    assert.equal(await message(tab, 'firing-tag'), '');
    assert.equal((await exposed(tab, 'firing-tag')).invalid, 'true', 'the browser knows it all the same');
    await tab.keyboard.press('Tab');
    assert.equal(await message(tab, 'firing-tag'), 'Firing tag is not in the expected form.');
    assert.deepEqual(await exposed(tab, 'firing-tag'), {
      name: 'Firing tag',
      description: 'Such as AB-3456 Firing tag is not in the expected form.',
      invalid: 'true',
    });
    await tab.getByLabel('Firing tag').press('Control+A');
    await tab.keyboard.type('BQ-000');
    assert.notEqual(await message(tab, 'firing-tag'), '');
    await tab.keyboard.type('1');
    assert.equal(await message(tab, 'firing-tag'), '');
    assert.equal((await exposed(tab, 'firing-tag')).invalid, 'false');
  });

  test('a rule over several fields speaks at the field that it blames', async () => {
    const tab = await opened();
    await fill(tab, { Glaze: 'lustre' });
    assert.equal(await message(tab, 'firing-vented'), '', 'the box was not left yet');
    await tab.getByLabel('Vent open').focus();
    await tab.keyboard.press('Tab');
    assert.equal(await message(tab, 'firing-vented'), 'Lustre firings need the vent open.');
    await fill(tab, { Glaze: 'none' });
    assert.equal(await message(tab, 'firing-vented'), '');
  });

  test('sent by keyboard alone with faults: a summary takes the focus, and its links lead to the controls', async () => {
    const tab = await opened();
    await fill(tab, { ...valid, 'Firing tag': 'x', 'Number of pieces': '31' });
    await tab.getByLabel('Bay').focus();
    await tab.keyboard.type('Z');
    await tab.keyboard.press('Enter');
    assert.equal(await focused(tab), 'summary');
    assert.equal(await tab.locator('.summary h2').textContent(), '4 things to mend');
    assert.deepEqual(await tab.locator('.summary a').allTextContents(), [
      'Firing tag is not in the expected form.',
      'Bay is not in the expected form.',
      'Level is missing.',
      'More than 30 pieces need a helper.',
    ]);
    for (const id of ['firing-tag', 'firing-shelf-bay', 'firing-shelf-level', 'firing-helpers']) {
      await tab.locator('.summary').focus();
      await tab.locator(`.summary a[href="#${id}"]`).press('Enter');
      assert.equal(await focused(tab), id);
    }
    assert.equal(await message(tab, 'firing-helpers'), 'More than 30 pieces need a helper.');
    await tab.getByLabel('Helper 1').focus();
    await tab.keyboard.type('T');
    assert.equal(await message(tab, 'firing-helpers'), '', 'of a list too, as soon as it is mended');
    await tab.keyboard.press('Backspace');
    assert.deepEqual(await tab.evaluate(() => (globalThis as unknown as Probe).sent), []);
    const isValid = () => tab.evaluate(() => document.forms[0]?.checkValidity());
    assert.equal(await isValid(), false);
    await fill(tab, { 'Firing tag': 'GL-0099', 'Number of pieces': '3', Bay: '' });
    assert.equal(await isValid(), true);
    await tab.getByLabel('What is fired').press('Enter');
    assert.equal(await tab.locator('.summary').count(), 0);
    assert.equal(await tab.evaluate(() => (globalThis as unknown as Probe).sent.length), 1);
    assert.equal(await tab.getByLabel('What is fired').inputValue(), ' Cups ', 'what was typed is as it was');
  });

  test('one press of the mouse sends, though leaving a field makes a message that moves the button', async () => {
    const tab = await opened();
    await tab.setViewportSize({ width: 800, height: 2400 });
    await fill(tab, { ...valid, 'Number of pieces': '99' });
    const pieces = tab.getByLabel('Number of pieces');
    await pieces.focus();
    const box = await tab.getByRole('button', { name: 'Save' }).boundingBox();
    assert.ok(box, 'the button is there');
    await tab.mouse.move(box.x + 5, box.y + 3);
    await tab.mouse.down();
    await tab.mouse.up();
    assert.equal(await focused(tab), 'summary');
  });

  test('rows are added, taken away and put back; a message stands at its row though blank ones stand before it', async () => {
    const tab = await opened();
    await fill(tab, valid);
    const rows = () => tab.locator('[data-row] label').allTextContents();
    assert.deepEqual(await rows(), ['Helper 1'], 'the blank rows for pages without script are gone');
    for (const name of ['', 'Tomek', 'Ewa', 'Tomek']) {
      await tab.keyboard.type(name);
      if ((await rows()).length < 4) await tab.getByRole('button', { name: 'Add: Helper' }).press('Enter');
      assert.match(String(await focused(tab)), /^firing-helpers-\d$/);
    }
    assert.deepEqual(await rows(), ['Helper 1', 'Helper 2', 'Helper 3', 'Helper 4']);
    assert.equal(await tab.getByRole('button', { name: 'Add: Helper' }).isVisible(), false, 'four are the most');
    await tab.getByLabel('Helper 1').fill('');
    const values = await tab
      .locator('[data-row] input')
      .evaluateAll((all) => all.map((one) => (one as HTMLInputElement).value));
    assert.deepEqual(values, ['', 'Tomek', 'Ewa', 'Tomek']);
    await tab.getByLabel('Helper 4').focus();
    await tab.keyboard.press('Enter');
    const at = (row: number) => tab.locator('[data-row]').nth(row).locator('.message').textContent();
    assert.deepEqual(
      [await at(0), await at(1), await at(2), await at(3)],
      ['', '', '', 'Helper is in the list already.'],
    );
    await tab.getByRole('button', { name: 'Remove: Helper 2' }).press('Enter');
    assert.deepEqual(await rows(), ['Helper 1', 'Helper 2', 'Helper 3']);
    assert.equal(await at(2), '', 'it is the only one now');
    await tab.getByRole('button', { name: 'Put back what was removed' }).press('Enter');
    assert.equal(await tab.getByLabel('Helper 2').inputValue(), 'Tomek');
    await tab.getByLabel('Helper 4').fill('Oke');
    await tab.keyboard.press('Enter');
    const sent = await tab.evaluate(() => (globalThis as unknown as Probe).sent);
    assert.deepEqual((sent as { helpers: string[] }[])[0]?.helpers, ['Tomek', 'Ewa', 'Oke']);
  });

  test('lists in lists, in another language: rows of rows are added, and a message finds the innermost', async () => {
    const tab = await opened('trays');
    const legends = () => tab.locator('legend').allTextContents();
    assert.deepEqual(await legends(), ['Trays', 'Tray 1', 'Sizes']);
    const press = (name: string, at = 0) => tab.getByRole('button', { name, exact: true }).nth(at).press('Enter');
    await press('Dodaj: Tray');
    await press('Dodaj: Tray');
    assert.equal(await tab.locator('legend', { hasText: 'Tray 3' }).count(), 1);
    const name = (row: number) => tab.locator('fieldset[name="trays"] > [data-row]').nth(row).getByLabel('Name');
    await name(0).fill('first');
    await name(2).fill('third');
    const sizes = tab.locator('fieldset[name="trays"] > [data-row]').nth(2).locator('fieldset');
    await sizes.nth(1).getByRole('button', { name: 'Dodaj: Size' }).press('Enter');
    await tab.keyboard.type('0');
    await tab.keyboard.press('Enter');
    const wrong = tab.locator('[aria-invalid=true]');
    assert.deepEqual(await wrong.evaluateAll((all) => all.map((one) => (one as HTMLInputElement).value)), ['0']);
    const checked = await tab.evaluate(
      () => (globalThis as unknown as { checked: { violations: { pointer: string }[] } }).checked,
    );
    assert.deepEqual(
      checked.violations.map(({ pointer }) => pointer),
      ['/trays/1/sizes/0'],
      'the blank row in between is none',
    );
    await wrong.fill('7');
    await tab.keyboard.press('Enter');
    const sent = await tab.evaluate(() => (globalThis as unknown as Probe).sent);
    assert.deepEqual(sent, [
      {
        trays: [
          { name: 'first', sizes: [] },
          { name: 'third', sizes: [7] },
        ],
      },
    ]);
  });

  test('what a server finds stands at its control until that is changed; the rest in the summary; it is sent once', async () => {
    const tab = await opened();
    await fill(tab, valid);
    await tab.evaluate(() => {
      const violations = [
        { pointer: '/tag', rule: 'firing.tag.unique', message: 'Firing tag is already taken.' },
        { pointer: '', rule: 'firing.refused', message: 'The studio is closed.' },
      ];
      (globalThis as unknown as Probe).answer = () =>
        new Promise((resolve) => setTimeout(() => resolve(violations), 100));
    });
    await tab.getByLabel('Firing tag').press('Enter');
    await tab.getByLabel('Firing tag').press('Enter');
    await tab.locator('.summary').waitFor();
    assert.deepEqual(await tab.locator('.summary li').allTextContents(), [
      'Firing tag is already taken.',
      'The studio is closed.',
    ]);
    assert.equal(await message(tab, 'firing-tag'), 'Firing tag is already taken.');
    assert.equal(await tab.evaluate(() => (globalThis as unknown as Probe).sent.length), 1);
    await tab.getByLabel('Firing tag').press('End');
    await tab.keyboard.press('Backspace');
    await tab.keyboard.type('8');
    assert.equal(await message(tab, 'firing-tag'), '');
    await tab.keyboard.press('Backspace');
    await tab.keyboard.type('9');
    await tab.evaluate(() => {
      (globalThis as unknown as Probe).answer = async () => undefined;
    });
    await tab.keyboard.press('Enter');
    await tab.waitForFunction(() => (globalThis as unknown as Probe).sent.length === 2);
    assert.equal(await tab.locator('.summary').count(), 0, 'sent again, nothing of before is left');
  });

  test('where nothing can be sent that is said, and nothing is lost', async () => {
    const tab = await opened();
    await fill(tab, valid);
    await tab.evaluate(() => {
      (globalThis as unknown as Probe).answer = () => Promise.reject(new Error('no network'));
    });
    await tab.getByLabel('Firing tag').press('Enter');
    await tab.getByText('This could not be sent. Nothing is lost: try again.').waitFor();
    assert.equal(await tab.getByLabel('What is fired').inputValue(), ' Cups ');
  });

  test('a moment gets the offset of the page, also where the browser sends the form', async () => {
    const tab = await opened('order', { timezoneId: 'Europe/Warsaw' });
    const at = async (text: string) => {
      await tab.locator('[name=made]').fill(text);
      return tab.evaluate(() => new FormData(document.forms[0]).get('made'));
    };
    assert.equal(await at('2026-07-01T10:00'), '2026-07-01T10:00+02:00');
    assert.equal(await at('2026-12-01T10:00:30.5'), '2026-12-01T10:00:30.5+01:00');
    assert.equal(await at('2026-12-01T10:00Z'), '2026-12-01T10:00Z');
    assert.equal(await at('soon'), 'soon');
    assert.equal(await tab.locator('[name=made]').inputValue(), 'soon', 'what was typed is as it was');
    const west = await opened('order', { timezoneId: 'America/St_Johns' });
    await west.locator('[name=made]').fill('2026-12-01T10:00');
    const sent = await west.evaluate(() => new FormData(document.forms[0]).get('made'));
    assert.equal(sent, '2026-12-01T10:00-03:30');
  });

  test('a form written by hand gets the places of its messages; unbound it is as it was', async () => {
    const tab = await opened('plain');
    await tab.locator('[name=code]').fill('x');
    await tab.keyboard.press('Enter');
    assert.equal(await tab.locator('[id="code-message"]').textContent(), 'Kiln code is not in the expected form.');
    await tab.evaluate(() => (globalThis as unknown as Probe).bound.unbind());
    assert.equal(await tab.evaluate(() => document.forms[0]?.noValidate), false);
    assert.equal(await tab.evaluate(() => document.forms[0]?.checkValidity()), true);
  });

  test('a form of some fields changes these of the stored record, and rules are judged on the whole', async () => {
    const tab = await opened('part');
    assert.deepEqual(await tab.locator('form label').allTextContents(), ['Glaze', 'Vent open']);
    await tab.getByLabel('Vent open').uncheck();
    await fill(tab, { Glaze: 'lustre' });
    await tab.getByRole('button', { name: 'Save' }).press('Enter');
    assert.deepEqual(await tab.locator('.summary a').allTextContents(), ['Lustre firings need the vent open.']);
    await fill(tab, { Glaze: 'tenmoku' });
    await tab.getByRole('button', { name: 'Save' }).press('Enter');
    const sent = await tab.evaluate(() => (globalThis as unknown as Probe).sent);
    assert.deepEqual(sent, [{ ...stored, glaze: 'tenmoku', vented: false }]);
  });

  test('in a component of React the same, through renderings', async () => {
    const tab = await opened('react');
    await tab.locator('output', { hasText: '3 wrong' }).waitFor();
    await tab.locator('[name=code]').fill('K7');
    await tab.keyboard.press('Enter');
    assert.equal(await tab.locator('#code-message').textContent(), 'Kiln code is not in the expected form.');
    await tab.locator('[name=code]').fill('K07');
    await tab.locator('[name=name]').fill('Small one');
    await tab.locator('[name=hottest]').fill('1200');
    await tab.keyboard.press('Enter');
    await tab.locator('b', { hasText: 'sent 1' }).waitFor();
    assert.deepEqual(await tab.evaluate(() => (globalThis as unknown as { sent: unknown }).sent), {
      code: 'K07',
      name: 'Small one',
      hottest: 1200,
    });
  });
});
