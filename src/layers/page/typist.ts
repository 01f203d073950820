import type { Page } from 'playwright-core';
import { showsSeconds, TIME } from '../form/fill.js';

/** One control as it stands in the page. */
export interface Seen {
  readonly at: number;
  /** Its name as a case has it: rows are counted from 0. */
  readonly name: string;
  /** Its name on the page, and how many of that name are before it. */
  readonly own: string;
  readonly nth: number;
  readonly type: string;
  readonly value: string;
  readonly step: string;
  readonly options: readonly string[];
}

/** The controls of the first form that a person can use; rows of lists are counted from 0 in the order of the page. */
export function controlsOf(page: Page, selector = 'form'): Promise<readonly Seen[]> {
  return page.evaluate((which) => {
    const form = document.querySelector(which) as HTMLFormElement;
    const rows = new Map<string, string[]>();
    const counts = new Map<string, number>();
    return [...form.querySelectorAll<HTMLInputElement | HTMLSelectElement>('input,select,textarea')].flatMap(
      (control, at) => {
        const nth = counts.get(control.name) ?? 0;
        counts.set(control.name, nth + 1);
        if (control.type === 'hidden') return [];
        let list = '';
        const name = control.name.replace(/\[(\d+)\]/g, (_, index: string) => {
          list += `${control.name.slice(0, control.name.indexOf('['))} `;
          const known = rows.get(list) ?? [];
          rows.set(list, known);
          if (!known.includes(index)) known.push(index);
          return `[${known.indexOf(index)}]`;
        });
        const isBox = control.type === 'checkbox';
        // A day that is typed in part has no value, and is not empty either.
        const text = control.validity.badInput ? '\ufffd' : control.value;
        const value = isBox ? String((control as HTMLInputElement).checked) : text;
        const options = control instanceof HTMLSelectElement ? [...control.options].map((one) => one.value) : [];
        return [
          {
            at,
            name,
            own: control.name,
            nth,
            type: control.type,
            value,
            step: control.getAttribute('step') ?? '',
            options,
          },
        ];
      },
    );
  }, selector);
}

/** What a person would type can't be typed: why. */
export class NotTypeable extends Error {}

/** A keyboard whose keys are pressed one after the other without waiting for each: real events all the same. */
export interface Keyboard {
  /** Presses keys, each a name or one character; done when the page has dealt with the last. */
  press(...keys: readonly string[]): Promise<void>;
}

const codes: { readonly [key: string]: { readonly code: string; readonly number: number; readonly text?: string } } = {
  Backspace: { code: 'Backspace', number: 8 },
  Enter: { code: 'Enter', number: 13, text: '\r' },
  ArrowRight: { code: 'ArrowRight', number: 39 },
  Delete: { code: 'Delete', number: 46 },
};

export async function keyboardOf(page: Page): Promise<Keyboard> {
  const session = await page.context().newCDPSession(page);
  const stroke = (key: string): readonly Promise<unknown>[] => {
    const { code = '', number, text = key.length === 1 ? key : undefined } = codes[key] ?? {};
    // The codes of letters and digits are their characters'; those of punctuation depend on the keyboard.
    const letter = /^[A-Za-z0-9 ]$/.test(key) ? key.toUpperCase().charCodeAt(0) : undefined;
    const own = { key, code, windowsVirtualKeyCode: number ?? letter };
    const typed = text === undefined ? {} : { text, unmodifiedText: text };
    return [
      session.send('Input.dispatchKeyEvent', { type: text === undefined ? 'rawKeyDown' : 'keyDown', ...own, ...typed }),
      session.send('Input.dispatchKeyEvent', { type: 'keyUp', ...own }),
    ];
  };
  return { press: async (...keys) => void (await Promise.all(keys.flatMap(stroke))) };
}

const ISO_DAY = /^(\d{4})-(\d{2})-(\d{2})$/;

/** A text for a control, and whether it is what a case is about. */
export interface Wanted {
  readonly seen: Seen;
  readonly text: string;
  /** False to bring the value at once where nothing is at stake but the value. */
  readonly byKeys: boolean;
}

/**
 * Puts texts into controls; '' clears one. What is short, and what a case is about, is typed key by key; the rest comes at
 * once, as an input method, a calendar that pops up or a list that folds out brings it. What the controls then hold,
 * `assertHeld` asks of all at once.
 *
 * @throws NotTypeable where a person can't: a value that a control does not offer, a control that is disabled
 */
export async function typeAll(page: Page, keyboard: Keyboard, wanted: readonly Wanted[], form = 'form'): Promise<void> {
  await bring(
    page,
    wanted.filter((one) => wayOf(one) === 'at once'),
    form,
  );
  for (const { seen, text } of wanted.filter((one) => wayOf(one) === 'by keys')) {
    if (seen.type === 'checkbox') {
      await toggle(page, keyboard, seen, text, form);
      continue;
    }
    await focus(page, seen.at, form);
    if (seen.type === 'date') await typeDay(keyboard, text);
    // What was there is selected: it goes with the first key.
    else await keyboard.press(...(text === '' ? ['Delete'] : text));
  }
}

/** @throws NotTypeable for a value that the control does not offer */
function wayOf({ seen, text, byKeys }: Wanted): 'at once' | 'by keys' {
  if (seen.type === 'checkbox') return 'by keys';
  if (seen.type === 'select-one') {
    // A list without an empty option can't be left without a choice: it is as nobody has touched it.
    if (text !== '' && !seen.options.includes(text)) throw new NotTypeable('the list has no such option');
    return 'at once';
  }
  if (seen.type === 'time') {
    if (text !== '' && !TIME.test(text)) throw new NotTypeable('a time control holds nothing else');
    if (text.length > 5 && !showsSeconds(seen.step))
      throw new NotTypeable('a time control of whole minutes shows no seconds');
    return 'at once';
  }
  if (seen.type === 'date') {
    if (text !== '' && !ISO_DAY.test(text)) throw new NotTypeable('a date control holds nothing else');
    return byKeys ? 'by keys' : 'at once';
  }
  const isShort = /^[\x20-\x7e]{0,6}$/.test(text);
  return isShort && (byKeys || seen.type === 'number') ? 'by keys' : 'at once';
}

/** Brings values at once, one control after the other. */
async function bring(page: Page, wanted: readonly Wanted[], form: string): Promise<void> {
  if (wanted.length === 0) return;
  const isOpen = await page.evaluate(
    async ([values, which]) => {
      const controls = document
        .querySelector(which)
        ?.querySelectorAll<HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement>('input,select,textarea');
      for (const [at, value] of values) {
        const control = controls?.[at];
        if (control === undefined || control.disabled) return false;
        // A date has parts: the first of them again, where another one was left.
        if (control.type === 'date') control.blur();
        control.focus();
        const isList = control instanceof HTMLSelectElement;
        const isPicked = control.type === 'date' || control.type === 'time';
        const isUntouched = isList && value === '' && ![...control.options].some((one) => one.value === '');
        if (isUntouched) {
          const first = [...control.options].findIndex(({ defaultSelected }) => defaultSelected);
          control.selectedIndex = Math.max(first, 0);
        } else if (isList || isPicked) {
          // As the browser itself sets it: a page may watch the property.
          Object.getOwnPropertyDescriptor(Object.getPrototypeOf(control), 'value')?.set?.call(control, value);
        } else {
          control.select();
          // The one way for a script to write as an input method does, with the events and limits that this has.
          document.execCommand(value === '' ? 'delete' : 'insertText', false, value);
        }
        if (isList || isPicked) {
          control.dispatchEvent(new Event('input', { bubbles: true, composed: true }));
          control.dispatchEvent(new Event('change', { bubbles: true }));
        }
        // What the page does about it in turns of its own comes before the next one.
        await null;
      }
      return true;
    },
    [wanted.map(({ seen, text }) => [seen.at, text] as const), form] as const,
  );
  if (!isOpen) throw new NotTypeable('the control is disabled');
}

/** @throws NotTypeable where a control holds something else than was typed into it */
export async function assertHeld(
  page: Page,
  typed: readonly { readonly seen: Seen; readonly text: string }[],
  form = 'form',
): Promise<void> {
  const now = await page.evaluate(
    (which) =>
      [...(document.querySelector(which)?.querySelectorAll<HTMLInputElement>('input,select,textarea') ?? [])].map(
        ({ value }) => value,
      ),
    form,
  );
  for (const { seen, text } of typed) {
    const isUntouched = seen.type === 'select-one' && text === '' && !seen.options.includes('');
    if (seen.type !== 'checkbox' && !isUntouched && now[seen.at] !== text.replace(/\r\n?/g, '\n'))
      throw new NotTypeable(`a ${seen.type} control holds something else`);
  }
}

/** Goes to a control, with all that is in it selected. */
function focus(page: Page, at: number, form: string): Promise<void> {
  return page.evaluate(
    ([index, which]) => {
      const controls = document.querySelector(which)?.querySelectorAll<HTMLInputElement>('input,select,textarea');
      const control = controls?.[index];
      // A date has parts: the first of them again, where another one was left.
      if (control?.type === 'date') control.blur();
      control?.focus();
      control?.select?.();
    },
    [at, form] as const,
  );
}

async function toggle(page: Page, keyboard: Keyboard, { at, value }: Seen, text: string, form: string): Promise<void> {
  const wanted = { '': 'false', false: 'false', true: 'true', on: 'true' }[text];
  if (wanted === undefined) throw new NotTypeable('a box is ticked or not');
  if (wanted === value) return;
  await focus(page, at, form);
  await keyboard.press(' ');
}

/** Month, day and year are parts of their own in a date control. */
async function typeDay(keyboard: Keyboard, text: string): Promise<void> {
  const [, year, month, day] = ISO_DAY.exec(text) ?? [];
  // What is typed takes the place of what is there, part by part; nothing at all must be cleared.
  const clear = ['month', 'day', 'year'].flatMap(() => ['Backspace', 'ArrowRight']);
  await keyboard.press(...(text === '' ? clear : `${month}${day}${year}`));
}
