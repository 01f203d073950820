import { type Control, controlAt } from './controls.js';
import type { Violation } from './types.js';

/**
 * Shows all that is wrong on top of a form, each with a link to its control, and takes the focus there; with none it goes.
 */
export function summarise(form: HTMLFormElement, violations: readonly Violation[], heading: string): void {
  const there = form.querySelector<HTMLElement>('[data-summary]');
  if (violations.length === 0) {
    there?.remove();
    return;
  }
  const document = form.ownerDocument;
  const make = (tag: string, ...children: readonly (Node | string)[]): HTMLElement => {
    const made = document.createElement(tag);
    made.append(...children);
    return made;
  };
  const title = make('h2', heading);
  title.id = `${form.dataset.ruleset ?? 'form'}-summary-title`;
  const lines = violations.map(({ pointer, message }) => {
    const control = controlAt(form, pointer);
    return make('li', control === undefined ? message : link(make('a', message) as HTMLAnchorElement, control));
  });
  const summary = make('div', title, make('ul', ...lines));
  summary.className = 'summary';
  summary.dataset.summary = '';
  summary.tabIndex = -1;
  summary.role = 'alert';
  summary.setAttribute('aria-labelledby', title.id);
  if (there === null) form.prepend(summary);
  else there.replaceWith(summary);
  summary.focus();
}

function link(anchor: HTMLAnchorElement, control: Control): HTMLElement {
  anchor.href = `#${control.id}`;
  anchor.addEventListener('click', (event) => {
    event.preventDefault();
    control.focus();
  });
  return anchor;
}
