import type { Page } from 'playwright-core';

/** The fault that a page shows at a control or a group of them. */
export interface Shown {
  readonly name: string;
  /** How many controls of that name are before it. */
  readonly nth: number;
  readonly message: string;
}

/** Where faults are looked for. */
export interface Looking {
  readonly form: string;
  readonly message: string | null;
}

/**
 * Makes the form ready for a case: the choices of references that it has are there, and what is described beside the
 * controls before anything is wrong is noted: a hint is no message.
 *
 * @param keys the keys of stored records by ruleset
 * @param hasSent true where the page has sent something: what it still does about that is stopped
 */
export async function prepare(
  page: Page,
  looking: Looking,
  keys: { readonly [ruleset: string]: readonly string[] } = {},
  hasSent = false,
): Promise<void> {
  await page.evaluate(
    ([{ form, message }, stored, isDone]) => {
      // Having sent the case before, the page may be about to go to another one.
      if (isDone) window.stop();
      for (const select of document.querySelectorAll<HTMLSelectElement>(`${form} select[data-refers-to]`)) {
        const missing = (stored[select.dataset.refersTo ?? ''] ?? []).filter(
          (key) => ![...select.options].some(({ value }) => value === key),
        );
        select.append(...missing.map((key) => new Option(key, key)));
      }
      const known = globalThis as unknown as { echoRuleHints?: Map<Element, string> };
      // What stands there once the first case was answered may be a message.
      const hints = known.echoRuleHints ?? new Map<Element, string>();
      for (const one of document.querySelectorAll<HTMLInputElement>(`${form} [name]`)) {
        const ids = `${one.getAttribute('aria-describedby') ?? ''} ${one.getAttribute('aria-errormessage') ?? ''}`;
        const places = ids.split(/\s+/).flatMap((id) => (id === '' ? [] : [document.getElementById(id)]));
        const own =
          message === null ? [] : [document.querySelector(message.replaceAll('{name}', CSS.escape(one.name)))];
        for (const place of [...places, ...own])
          if (place !== null && !hints.has(place)) hints.set(place, place.textContent ?? '');
      }
      known.echoRuleHints = hints;
    },
    [looking, keys, hasSent] as const,
  );
}

/** The faults that the page shows now: by validity, by `aria-invalid`, and by messages that were not there before. */
export function faultsOf(page: Page, looking: Looking): Promise<readonly Shown[]> {
  return page.evaluate(({ form, message }) => {
    const found: { name: string; nth: number; message: string }[] = [];
    const counts = new Map<string, number>();
    const hints = (globalThis as unknown as { echoRuleHints?: Map<Element, string> }).echoRuleHints ?? new Map();
    const whole = document.querySelector<HTMLFormElement>(form);
    const isChecked = whole !== null && !whole.noValidate;
    for (const one of document.querySelectorAll<HTMLInputElement>(`${form} [name]`)) {
      const nth = counts.get(one.name) ?? 0;
      counts.set(one.name, nth + 1);
      const ids = `${one.getAttribute('aria-describedby') ?? ''} ${one.getAttribute('aria-errormessage') ?? ''}`;
      const places = ids.split(/\s+/).flatMap((id) => (id === '' ? [] : [document.getElementById(id)]));
      const own = message === null ? [] : [document.querySelector(message.replaceAll('{name}', CSS.escape(one.name)))];
      const told = [...places, ...own].flatMap((place) => {
        const text = place?.textContent ?? '';
        return place === null || text.trim() === '' || text === hints.get(place) ? [] : [text.trim()];
      });
      const isInvalid = one.getAttribute('aria-invalid') === 'true' || (isChecked && one.validity?.valid === false);
      // Without an `aria-invalid` of its own, a group or a control with a new message beside it is blamed as well.
      if (isInvalid || told.length > 0)
        found.push({ name: one.name, nth, message: told[0] ?? one.validationMessage ?? '' });
    }
    return found;
  }, looking);
}
