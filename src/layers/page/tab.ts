import type { Browser, Page } from 'playwright-core';
import { allFields, type Case, type Clock, formName, type Model } from '../../core/model/index.js';
import type { Translation } from '../field-names.js';
import { faultsOf, type Looking, prepare, type Shown } from './observed.js';
import { type Posted, Requests } from './requests.js';
import { assertHeld, controlsOf, type Keyboard, keyboardOf, NotTypeable, type Seen, typeAll } from './typist.js';

type Input = { readonly [name: string]: unknown };

/** What a page did with what was typed. */
export type Did = { readonly posted: Posted } | { readonly faults: readonly Shown[] } | { readonly nothing: string };

/** A page may take so many milliseconds to be there. */
const LOADING = 15_000;
/** And so many more until its form is, which a script may draw. */
const DRAWING = 3_000;

/** A tab with the form of one ruleset: cases are typed into it one after the other. */
export class Tab {
  readonly #page: Page;
  readonly #keyboard: Keyboard;
  readonly #address: string;
  readonly #looking: Looking;
  readonly #requests: Requests;
  readonly #timeout: number;
  readonly #errors: string[] = [];
  #hasSent = false;
  readonly #translation: Translation;
  /** The names of its controls as cases have them, by their own and how many of that name were before. */
  #names: ReadonlyMap<string, string> = new Map();

  private constructor(
    page: Page,
    keyboard: Keyboard,
    requests: Requests,
    { address, looking, timeout, translation }: TabOptions,
  ) {
    this.#translation = translation;
    this.#page = page;
    this.#keyboard = keyboard;
    this.#requests = requests;
    this.#address = address;
    this.#looking = looking;
    this.#timeout = timeout;
    page.on('pageerror', ({ message }) => this.#errors.push(message));
  }

  /** Opens the page in a browser whose clock stands at a case's time. */
  static async open(browser: Browser, options: TabOptions): Promise<Tab> {
    const context = await browser.newContext({
      // A small window: what is not drawn costs nothing.
      viewport: { width: 400, height: 40 },
      timezoneId: options.clock.zone,
      javaScriptEnabled: options.script,
    });
    const page = await context.newPage();
    page.setDefaultTimeout(Math.max(options.timeout, LOADING));
    const requests = new Requests();
    await requests.watch(page, options.address);
    await page.clock.setFixedTime(options.clock.instant);
    await minimise(page);
    const tab = new Tab(page, await keyboardOf(page), requests, options);
    await tab.#load();
    return tab;
  }

  /** The page as it is at first. */
  async reload(): Promise<void> {
    await this.#load();
  }

  /** True where the page has sent something since it was loaded. */
  get hasSent(): boolean {
    return this.#hasSent;
  }

  async #load(): Promise<void> {
    this.#requests.sending(false);
    this.#hasSent = false;
    await this.#page.goto(this.#address, { waitUntil: 'load' });
    await this.#page.waitForSelector(this.#looking.form, {
      state: 'attached',
      timeout: Math.max(this.#timeout, DRAWING),
    });
  }

  /** Types what a case has otherwise than the one before. @throws NotTypeable with the reason where a person can't */
  async type(one: Case, model: Model, keys: { readonly [ruleset: string]: readonly string[] }): Promise<void> {
    const input = one.input as Input;
    await this.#ready();
    let seen = await this.#look(keys);
    // Rows that were added have hints of their own.
    if (await this.#addRows(input, seen)) seen = await this.#look({});
    this.#names = new Map(seen.map((control) => [ownKey(control.own, control.nth), control.name]));
    const stranger = Object.keys(input).find(
      (name) => !seen.some((control) => control.name === name) && isAbout(one, name),
    );
    if (stranger !== undefined) throw new NotTypeable(`the form has no control for ${stranger}`);
    const typed = seen
      .filter(({ name }) => allFields(model).some(({ path }) => formName(path) === plainName(name)))
      .map((control) => ({
        seen: control,
        text: wantedIn(control.type, control.name, input, model),
        byKeys: isAbout(one, control.name),
      }))
      .filter(({ seen: control, text }) => control.value !== text);
    await typeAll(this.#page, this.#keyboard, typed, this.#looking.form);
    // In one go, as above: nothing is sent before a key is pressed.
    await Promise.all([assertHeld(this.#page, typed, this.#looking.form), this.#goToButton()]);
  }

  #goToButton(): Promise<void> {
    return this.#page.evaluate((form) => {
      const button = `${form} :is(button:not([type]), [type="submit"], [type="image"])`;
      document.querySelector<HTMLElement>(button)?.focus();
    }, this.#looking.form);
  }

  /** The page, opened again where it was left. */
  async #ready(): Promise<void> {
    if (this.#page.url() !== new URL(this.#address).href) await this.#load();
    this.#errors.splice(0);
  }

  /** The controls, with the choices of references that the case has. */
  async #look(keys: { readonly [ruleset: string]: readonly string[] }): Promise<readonly Seen[]> {
    // Asked for in one go: a page does what it is asked in that order.
    const [, seen] = await Promise.all([
      prepare(this.#page, this.#looking, keys, this.#hasSent),
      controlsOf(this.#page, this.#looking.form),
    ]);
    const counts = new Map<string, number>();
    return seen.map((control) => ({ ...control, name: this.#translation.fromControl(control.name, counts) }));
  }

  /** Presses a list's own button until it has a row for every entry; true where it had to. */
  async #addRows(input: Input, seen: readonly Seen[]): Promise<boolean> {
    let added = false;
    for (const name of Object.keys(input)) {
      const [, list, index] = /^(\w+)\[(\d+)\]/.exec(name) ?? [];
      const isThere = (row: number) => seen.some((one) => one.name.startsWith(`${list}[${row}]`));
      if (list === undefined || isThere(Number(index))) continue;
      const frame = this.#page.locator(`${this.#looking.form} fieldset[name="${list}"]`);
      if ((await frame.count()) === 0) continue;
      while ((await frame.locator(':scope > [data-row]').count()) <= Number(index)) {
        const button = frame.locator(':scope > p > [data-add]');
        if (!(await button.isVisible())) throw new NotTypeable('the list takes no more entries');
        await button.focus();
        await this.#keyboard.press('Enter');
        added = true;
      }
    }
    return added;
  }

  /** Sends the form as a person does, and waits for what comes of it. */
  async submit(): Promise<Did> {
    this.#requests.begin(this.#ownNames);
    this.#requests.sending(true);
    await this.#keyboard.press('Enter');
    let isFirst = true;
    const end = Date.now() + this.#timeout;
    // What a page finds by itself is there by the next turn; what it asks a server for takes longer.
    for (let wait = 0; Date.now() < end; wait = Math.min(wait * 2 + 5, 100)) {
      const posted = await this.#requests.within(wait);
      if (posted !== null) {
        this.#hasSent = true;
        return { posted };
      }
      if (this.#errors.length > 0) return { nothing: `an error on the page: ${this.#errors[0]}` };
      const faults = await faultsOf(this.#page, this.#looking);
      if (faults.length > 0)
        return {
          faults: faults.map((fault) => ({
            ...fault,
            name: this.#names.get(ownKey(fault.name, fault.nth)) ?? fault.name,
          })),
        };
      // A page on its way to another one, having sent the case before, does not hear what is pressed.
      if (isFirst && this.#requests.hasLeft) {
        isFirst = false;
        await this.#goToButton();
        await this.#keyboard.press('Enter');
      }
    }
    return { nothing: 'it neither sends nor shows a fault' };
  }

  get #ownNames(): readonly string[] {
    return [...this.#names.keys()].map((key) => key.slice(key.indexOf(' ') + 1));
  }

  async close(): Promise<void> {
    await this.#page.context().close();
  }
}

/** Controls of one name differ by their order. */
function ownKey(name: string, nth: number): string {
  return `${nth} ${name}`;
}

/** What nobody looks at need not be drawn: the page is shown all the same, as far as it can tell. */
async function minimise(page: Page): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const { windowId } = await session.send('Browser.getWindowForTarget');
  await session.send('Browser.setWindowBounds', { windowId, bounds: { windowState: 'minimized' } });
  await session.detach();
}

export interface TabOptions {
  readonly address: string;
  readonly clock: Clock;
  readonly looking: Looking;
  readonly timeout: number;
  readonly script: boolean;
  readonly translation: Translation;
}

/** `pieces[3][clay]` without its numbers, as a field's own name is. */
function plainName(name: string): string {
  return name.replace(/\[[0-9]+\]/g, '[0]');
}

function isAbout({ constraint, ruleset }: Case, name: string): boolean {
  const path = name.replace(/\[[0-9]+\]/g, '[]').replace(/\[([^\]]+)\]/g, '.$1');
  return constraint.startsWith(`${ruleset}.${path}.`) || constraint === `${ruleset}.keys`;
}

/** The text that a case wants in a control: a key that is missing leaves a default as it is. */
function wantedIn(type: string, name: string, input: Input, model: Model): string {
  const given: unknown = Object.hasOwn(input, name) ? input[name] : undefined;
  const field = allFields(model).find(({ path }) => formName(path) === plainName(name));
  if (given === undefined && field?.default != null) return String(field.default);
  const isBox = type === 'checkbox';
  const isTicked = isBox && Array.isArray(given) && given.join() === 'false,true';
  if (Array.isArray(given) && given.length > 1 && !isTicked) throw new NotTypeable('several entries for one control');
  const last: unknown = Array.isArray(given) ? given.at(-1) : given;
  const text = last === undefined || last === null ? '' : String(last);
  if (isBox && given === '') throw new NotTypeable('a box is ticked or not');
  if (/\p{Surrogate}/u.test(text)) throw new NotTypeable('a lone surrogate is no character');
  return isBox ? String(text === '' ? false : text === 'on' ? true : text) : text;
}
