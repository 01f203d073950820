import type { Page } from 'playwright-core';

/** One control as it stands in the page. */
export interface Seen {
  readonly at: number;
  /** Its name as a case has it: rows are counted from 0. */
  readonly name: string;
  /** Its name on the page. */
  readonly own: string;
  readonly type: string;
  readonly value: string;
  readonly options: readonly string[];
}

/** The controls of the first form that a person can use; rows of lists are counted from 0 in the order of the page. */
export function controlsOf(page: Page, selector = 'form'): Promise<readonly Seen[]> {
  return page.evaluate((which) => {
    const form = document.querySelector(which) as HTMLFormElement;
    const rows = new Map<string, string[]>();
    return [...form.querySelectorAll<HTMLInputElement | HTMLSelectElement>('input,select,textarea')].flatMap(
      (control, at) => {
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
        const value = isBox ? String((control as HTMLInputElement).checked) : control.value;
        const options = control instanceof HTMLSelectElement ? [...control.options].map((one) => one.value) : [];
        return [{ at, name, own: control.name, type: control.type, value, options }];
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
  /** A text at once, as an input method or the clipboard brings it. */
  insert(text: string): Promise<void>;
}

const codes: { readonly [key: string]: { readonly code: string; readonly number: number; readonly text?: string } } = {
  Backspace: { code: 'Backspace', number: 8 },
  Enter: { code: 'Enter', number: 13, text: '\r' },
  ArrowLeft: { code: 'ArrowLeft', number: 37 },
  ArrowRight: { code: 'ArrowRight', number: 39 },
  Delete: { code: 'Delete', number: 46 },
};

export async function keyboardOf(page: Page): Promise<Keyboard> {
  const session = await page.context().newCDPSession(page);
  const stroke = (key: string): readonly Promise<unknown>[] => {
    if (key === 'Control+A') {
      const all = { key: 'a', code: 'KeyA', windowsVirtualKeyCode: 65, modifiers: 2 };
      return [
        session.send('Input.dispatchKeyEvent', { type: 'rawKeyDown', ...all, commands: ['selectAll'] }),
        session.send('Input.dispatchKeyEvent', { type: 'keyUp', ...all }),
      ];
    }
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
  return {
    press: async (...keys) => void (await Promise.all(keys.flatMap(stroke))),
    insert: async (text) => void (await session.send('Input.insertText', { text })),
  };
}

const ISO_DAY = /^(\d{4})-(\d{2})-(\d{2})$/;

/**
 * Puts a text into a control by keyboard; '' clears it. What the control then holds, `assertHeld` asks of all at once.
 *
 * @param byKeys false to bring the text at once, as an input method does, where nothing is at stake but the value
 */
export async function typeInto(
  page: Page,
  keyboard: Keyboard,
  seen: Seen,
  text: string,
  form = 'form',
  byKeys = true,
): Promise<void> {
  if (seen.type === 'checkbox') return toggle(page, keyboard, seen, text, form);
  if (seen.type === 'select-one') return choose(page, seen, text, form);
  await focus(page, seen.at, form);
  if (seen.type === 'date') return typeDay(keyboard, text);
  // What was there is selected: it goes with the first key.
  if (text === '') return keyboard.press('Delete');
  const isShort = /^[\x20-\x7e]{1,6}$/.test(text);
  await (isShort && (byKeys || seen.type === 'number') ? keyboard.press(...text) : keyboard.insert(text));
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

async function choose(page: Page, { at, options }: Seen, text: string, form: string): Promise<void> {
  // A list without an empty option can't be left without a choice: it is as nobody has touched it.
  if (text === '' && !options.includes('')) return untouched(page, at, form);
  if (!options.includes(text)) throw new NotTypeable('the list has no such option');
  const control = page.locator(form).first().locator('input,select,textarea').nth(at);
  await control.selectOption(text);
}

/** What the list has from the start. */
function untouched(page: Page, at: number, form: string): Promise<void> {
  return page.evaluate(
    ([index, which]) => {
      const list = document.querySelector(which)?.querySelectorAll<HTMLSelectElement>('input,select,textarea')[index];
      if (list === undefined) return;
      list.selectedIndex = Math.max(
        [...list.options].findIndex(({ defaultSelected }) => defaultSelected),
        0,
      );
      list.dispatchEvent(new Event('change', { bubbles: true }));
    },
    [at, form] as const,
  );
}

/** Month, day and year are parts of their own in a date control. */
async function typeDay(keyboard: Keyboard, text: string): Promise<void> {
  const [, year, month, day] = ISO_DAY.exec(text) ?? [];
  if (text !== '' && year === undefined) throw new NotTypeable('a date control holds nothing else');
  // What is typed takes the place of what is there, part by part; nothing at all must be cleared.
  const clear = ['month', 'day', 'year'].flatMap(() => ['Backspace', 'ArrowRight']);
  await keyboard.press(...(text === '' ? clear : `${month}${day}${year}`));
}
