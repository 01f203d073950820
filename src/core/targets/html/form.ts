import type { Schema } from '../../declare/index.js';
import { fieldMarkup } from './fields.js';
import { type FormState, idAt, type Shown, shownOf } from './state.js';
import { type Element, element, printHtml } from './tree.js';

/**
 * The form of a ruleset: a control for each field that a page has, with label, hint, and the place of its message; what
 * was sent and what is wrong with it, where there is any.
 */
export function formText(model: Schema[number], state: FormState = {}): string {
  return `${printHtml(formMarkup(model, shownOf(model, state), state))}\n`;
}

/** A starter form: what references lead to is put in by whoever knows it. */
export function starterText(model: Schema[number]): string {
  return `${printHtml(formMarkup(model, { ...shownOf(model, {}), options: () => [] }, {}))}\n`;
}

function formMarkup(model: Schema[number], shown: Shown, { action, hidden = {}, button }: FormState): Element {
  const tree = shown.tree ?? {};
  const fields = shown.fields.map((field) => {
    const given = Object.hasOwn(tree, field.name) ? tree[field.name] : null;
    const at = { name: field.name, pointer: `/${field.name}`, inOptional: false, depth: 0, number: null };
    return fieldMarkup(shown, field, given, at);
  });
  return element(
    'form',
    { method: 'post', action, 'aria-label': shown.name, 'data-ruleset': model.ruleset },
    ...(shown.violations.length === 0 ? [] : [summary(model, shown)]),
    ...Object.entries(hidden).map(([name, value]) => element('input', { type: 'hidden', name, value })),
    ...fields,
    element('p', { class: 'buttons' }, element('button', { type: 'submit' }, button ?? shown.word('form.save'))),
  );
}

/** Everything that is wrong, each with a link to its control; what has none stands alone. It takes the focus. */
function summary(model: Schema[number], shown: Shown): Element {
  const title = `${model.ruleset}-summary-title`;
  const lines = shown.violations.map(({ pointer, message }) => {
    const id = idAt(shown, pointer);
    return element('li', {}, id === null ? message : element('a', { href: `#${id}` }, message));
  });
  return element(
    'div',
    {
      class: 'summary',
      'data-summary': true,
      role: 'alert',
      tabindex: '-1',
      autofocus: true,
      'aria-labelledby': title,
    },
    element('h2', { id: title }, shown.say('form.summary', String(lines.length))),
    element('ul', {}, ...lines),
  );
}
