import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import type { Browser, Page } from 'playwright-core';
import { caseSetFor, selected } from '../../src/core/cases/index.js';
import { decide } from '../../src/core/meaning/index.js';
import { allFields, type Case, type Clock, formName } from '../../src/core/model/index.js';
import { formText } from '../../src/core/targets/index.js';
import { moduleText } from '../../src/core/targets/javascript/emit.js';
import {
  assertHeld,
  controlsOf,
  type Keyboard,
  keyboardOf,
  NotTypeable,
  typeAll,
} from '../../src/layers/page/typist.js';
import { bundled, openBrowser, servePages } from '../fixtures/browser.js';
import { soak } from '../fixtures/records.js';
import { everyKind, studio } from '../fixtures/schema.js';

/** A person types so many of a ruleset's cases, the most telling ones; in the long form, all. */
const MOST_TYPED = 110;

type Model = (typeof studio)[number];
type Input = { readonly [name: string]: unknown };

/** What the page did when it was sent. */
interface Did {
  readonly sent: unknown;
  /** The lines of the summary. */
  readonly summary: readonly string[];
  /** The messages at controls and groups, by name. */
  readonly messages: { readonly [name: string]: string };
  /** Names of controls that the browser's own validity calls invalid. */
  readonly invalid: readonly string[];
}

/** The page of a ruleset: its form, bound to its compiled module. The clock is each case's. */
function scriptOf(model: Model): Promise<string> {
  return bundled(
    `
    import { bind } from './src/browser/index.ts';
    import * as rules from '/${model.ruleset}.rules.js';
    let clock;
    const checking = { check: (input, how) => rules.check(input, { ...how, clock }) };
    const state = { sent: undefined };
    globalThis.probe = {
      begin(now, options) {
        clock = now;
        state.sent = undefined;
        for (const select of document.querySelectorAll('select[data-refers-to]')) {
          const chosen = select.value;
          select.replaceChildren(new Option('', ''), ...(options[select.dataset.refersTo] ?? []).map((key) => new Option('called ' + key, key)));
          select.value = [...select.options].some((one) => one.value === chosen) ? chosen : '';
        }
      },
      end: () => ({
        sent: state.sent,
        summary: [...document.querySelectorAll('[data-summary] li')].map((one) => one.textContent),
        messages: Object.fromEntries([...document.querySelectorAll('[name]')].map((one) => [one.name, document.getElementById(one.id + '-message')?.textContent ?? '']).filter(([, text]) => text !== '')),
        invalid: [...document.querySelectorAll('form :invalid')].map((one) => one.name).filter(Boolean),
      }),
    };
    bind(document.forms[0], checking, { send: async (value) => { state.sent = value; } });
  `.replace("await import('", "await import('"),
  );
}

describe('compiled forms in a real browser', { concurrency: 3 }, () => {
  let browser: Browser;
  let close: () => Promise<void>;
  before(async () => {
    ({ browser, close } = await openBrowser());
  });
  after(() => close());

  for (const model of [...everyKind, ...studio].reverse()) {
    const schema = studio.includes(model) ? studio : everyKind;
    test(`${model.ruleset}: every case that can be typed is answered as the meaning says`, async () => {
      const isTyped = ({ wire, does }: Case) => wire === 'form' && does === 'insert';
      const budget = soak ? {} : { budget: MOST_TYPED };
      const { cases } = selected([caseSetFor(model, schema)], { fits: isTyped, ...budget });
      const options = Object.fromEntries(schema.map(({ ruleset }) => [ruleset, []]));
      const pages = await servePages({
        '/form.html': `<!doctype html><html lang="en"><title>form</title>${formText(model, { options })}<script type="module" src="/page.js"></script></html>`,
        '/page.js': await scriptOf(model),
        [`/${model.ruleset}.rules.js`]: moduleText(model),
      });
      // A small window: what is not drawn costs nothing.
      const page = await browser.newPage({ viewport: { width: 320, height: 160 } });
      const faults: string[] = [];
      page.on('pageerror', (error) => faults.push(error.message));
      await page.goto(`${pages.url}/form.html`);
      await page.waitForFunction(() => 'probe' in globalThis);
      const keyboard = await keyboardOf(page);
      let typed = 0;
      const untyped = new Map<string, number>();
      for (const one of cases) {
        const why = await typeCase(page, keyboard, model, schema, one);
        if (why !== null) {
          untyped.set(why, (untyped.get(why) ?? 0) + 1);
          continue;
        }
        typed += 1;
        const told = difference(model, one, await send(page, keyboard));
        if (told !== null) faults.push(`${one.id} ${JSON.stringify(one.input)}: ${told}`);
      }
      const left = [...untyped].map(([why, count]) => `${count} ${why}`).join('; ');
      console.log(`# ${model.ruleset}: ${typed} of ${cases.length} cases typed; not typed: ${left || 'none'}`);
      await page.close();
      await pages.close();
      assert.deepEqual(faults, []);
      assert.ok(typed >= cases.length / 2, `${typed} of ${cases.length} cases were typed`);
    });
  }
});

/** Types a case into the form; null, or why a person can't. */
async function typeCase(
  page: Page,
  keyboard: Keyboard,
  model: Model,
  schema: readonly Model[],
  one: Case,
): Promise<string | null> {
  const input = one.input as Input;
  const keys = Object.fromEntries(
    schema.map(({ ruleset, key }) => [
      ruleset,
      one.before.filter((row) => row.ruleset === ruleset).map(({ row }) => String(row[key ?? ''])),
    ]),
  );
  await page.evaluate(
    ([clock, options]) =>
      (globalThis as unknown as { probe: { begin(...all: unknown[]): void } }).probe.begin(clock, options),
    [one.clock, keys] as const,
  );
  try {
    await addRows(page, input);
    const seen = await controlsOf(page);
    const stranger = Object.keys(input).find((name) => !seen.some((control) => control.name === name));
    if (stranger !== undefined) return 'sent under names that the form has no control for';
    const typed = seen
      .map((control) => ({ seen: control, text: wantedIn(control.type, control.name, input, model), byKeys: true }))
      .filter((one) => one.seen.value !== one.text);
    await typeAll(page, keyboard, typed);
    await assertHeld(page, typed);
    return null;
  } catch (error) {
    if (error instanceof NotTypeable) return error.message;
    throw error;
  }
}

/** The text that a case wants in a control: a key that is missing leaves a default as it is. */
function wantedIn(type: string, name: string, input: Input, model: Model): string {
  const given: unknown = Object.hasOwn(input, name) ? input[name] : undefined;
  const field = allFields(model).find(({ path }) => formName(path) === name);
  if (given === undefined && field?.default != null) return String(field.default);
  const isBox = type === 'checkbox';
  if (Array.isArray(given) && given.length > 1 && !isBox) throw new NotTypeable('several entries for one control');
  const last: unknown = Array.isArray(given) ? given.at(-1) : given;
  const text = last === undefined || last === null ? '' : String(last);
  if (isBox && given === '') throw new NotTypeable('a box is ticked or not');
  if (/\p{Surrogate}/u.test(text)) throw new NotTypeable('a lone surrogate is no character');
  if (field?.kind === 'timestamp' && /T/.test(text) && !/(?:Z|[+-]\d\d:\d\d)\s*$/i.test(text))
    throw new NotTypeable('the page adds its own offset');
  return isBox ? String(text === 'on' || text === 'true' || (text === '' || text === 'false' ? false : text)) : text;
}

/** Presses the list's button until it has a row for every entry of the case. */
async function addRows(page: Page, input: Input): Promise<void> {
  for (const name of Object.keys(input)) {
    const [, list, index] = /^(\w+)\[(\d+)\]/.exec(name) ?? [];
    if (list === undefined) continue;
    const frame = page.locator(`fieldset[name="${list}"]`);
    while ((await frame.locator(':scope > [data-row]').count()) <= Number(index)) {
      const button = frame.locator(':scope > p > [data-add]');
      if (!(await button.isVisible())) throw new NotTypeable('the list takes no more entries');
      await button.focus();
      await page.keyboard.press('Enter');
    }
  }
}

async function send(page: Page, keyboard: Keyboard): Promise<Did> {
  await page.evaluate(() => document.querySelector<HTMLElement>('button[type=submit]')?.focus());
  await keyboard.press('Enter');
  return page.evaluate(() => (globalThis as unknown as { probe: { end(): Did } }).probe.end());
}

/** Null, or what the page did otherwise than the meaning says. */
function difference(model: Model, { input, clock }: { input: unknown; clock: Clock }, did: Did): string | null {
  const verdict = decide(model, input, 'form', { enforcers: ['client'], clock });
  const told = JSON.stringify(did);
  if ('accepted' in verdict) {
    if (JSON.stringify(did.sent) !== JSON.stringify(verdict.accepted)) return `should be sent; the page: ${told}`;
    return did.summary.length === 0 && Object.keys(did.messages).length === 0 && did.invalid.length === 0
      ? null
      : `nothing is wrong; the page: ${told}`;
  }
  const words = verdict.refused.map(({ message }) => message);
  if (did.sent !== undefined && did.sent !== null) return `should be refused with ${words.join(' ')}`;
  if (did.summary.join() !== words.join()) return `expected ${words.join(' ')} in the summary of ${told}`;
  const shown = Object.values(did.messages).join(' ');
  const lost = verdict.refused.find(({ message }) => !shown.includes(message));
  return lost === undefined ? null : `${lost.message} at no control: ${told}`;
}
