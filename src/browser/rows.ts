import { isBlank } from './controls.js';

/** A row that was taken away, and what it stood before. */
interface Removed {
  readonly row: Element;
  readonly before: Element;
}

const rowsOf = (list: Element) => [...list.children].filter((one) => one.matches('[data-row]'));
const controlsIn = (row: Element) => [...row.querySelectorAll<HTMLInputElement>('input,select,textarea')];
const isBlankRow = (row: Element) => controlsIn(row).every(isBlank);

/**
 * Lists in a form: rows are added from the list's template, taken away, and put back as they were. A row keeps its number
 * in its names: whoever reads the form closes the gaps.
 */
export function bindRows(form: HTMLFormElement, changed: () => void, signal: AbortSignal): void {
  const removed = new Map<Element, Removed[]>();
  const lists = () => [...form.querySelectorAll<HTMLElement>('[data-list]')];
  const button = (list: Element, does: string) =>
    [...list.querySelectorAll<HTMLElement>(`[data-${does}]`)].find((one) => one.closest('[data-list]') === list);

  const refresh = (list: HTMLElement) => {
    const { least = 0, most = Infinity } = list.dataset;
    const rows = rowsOf(list);
    const toggle = (does: string, hidden: boolean, within: Element = list) => {
      const one = does === 'remove' ? within.querySelector<HTMLElement>(':scope > [data-remove]') : button(list, does);
      if (one != null) one.hidden = hidden;
    };
    toggle('add', rows.length >= +most);
    toggle('put-back', !removed.get(list)?.length || rows.length >= +most);
    rows.forEach((row, at) => {
      toggle('remove', rows.length <= +least, row);
      for (const number of row.querySelectorAll('[data-number]')) {
        if (number.closest('[data-list]') === list) number.textContent = `${at + 1}`;
      }
    });
  };

  const begin = (list: HTMLElement) => {
    const rows = rowsOf(list);
    list.dataset.next ??= `${rows.length}`;
    const kept = Math.max(1, +(list.dataset.least ?? 0));
    // Blank rows are for pages without script: here more come when they are asked for.
    for (const row of rows.slice(kept).reverse()) {
      if (!isBlankRow(row)) break;
      row.remove();
    }
    refresh(list);
  };

  const add = (list: HTMLElement, template: HTMLTemplateElement) => {
    const index = list.dataset.next ?? '0';
    list.dataset.next = `${+index + 1}`;
    const made = template.content.cloneNode(true) as DocumentFragment;
    number(made, `{at${list.dataset.list}}`, index);
    template.before(made);
    const row = template.previousElementSibling as HTMLElement;
    row.querySelectorAll<HTMLElement>('[data-list]').forEach(begin);
    controlsIn(row)
      .find(({ type }) => type !== 'hidden')
      ?.focus();
  };

  const remove = (list: HTMLElement, row: Element) => {
    const before = row.nextElementSibling as Element;
    if (!isBlankRow(row)) removed.set(list, [...(removed.get(list) ?? []), { row, before }]);
    row.remove();
    refresh(list);
    (before.querySelector<HTMLElement>(':scope > [data-remove]') ?? button(list, 'add'))?.focus();
  };

  const putBack = (list: HTMLElement, template: Element) => {
    const last = removed.get(list)?.pop();
    if (last === undefined) return;
    (last.before.parentElement === list ? last.before : template).before(last.row);
    controlsIn(last.row)[0]?.focus();
  };

  form.addEventListener(
    'click',
    ({ target }) => {
      const pressed = (target as Element).closest<HTMLElement>('button');
      const list = pressed?.closest<HTMLElement>('[data-list]');
      const template = list?.querySelector<HTMLTemplateElement>(':scope > template');
      if (pressed == null || list == null || template == null) return;
      const row = pressed.closest('[data-row]');
      if ('add' in pressed.dataset) add(list, template);
      else if ('putBack' in pressed.dataset) putBack(list, template);
      else if ('remove' in pressed.dataset && row !== null) remove(list, row);
      else return;
      refresh(list);
      changed();
    },
    { signal },
  );
  lists().forEach(begin);
}

/** Puts a row's number where its mark stands: in attributes, and in the templates of lists within. */
function number(within: DocumentFragment, mark: string, index: string): void {
  for (const element of within.querySelectorAll('*')) {
    for (const attribute of element.attributes) attribute.value = attribute.value.replaceAll(mark, index);
    if (element instanceof HTMLTemplateElement) number(element.content, mark, index);
  }
}
