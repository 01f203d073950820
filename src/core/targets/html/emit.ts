import type { Schema } from '../../declare/index.js';
import type { KnownField } from '../../kinds/index.js';
import type { MadeFile } from '../target.js';
import { controlId, escapeHtml } from './names.js';
import { type Control, controlOf } from './types.js';

/** A starter form a ruleset, and the attributes of each control as data for forms that are written by hand. */
export function emitForms(schema: Schema): readonly MadeFile[] {
  return schema.flatMap((model): readonly MadeFile[] => [
    {
      path: `html/${model.ruleset}.html`,
      comment: ['<!-- ', ' -->'],
      from: [model.ruleset],
      text: formText(model),
    },
    {
      path: `html/${model.ruleset}.attributes.js`,
      comment: ['// ', ''],
      from: [model.ruleset],
      text: attributesText(model),
    },
  ]);
}

function formText(model: Schema[number]): string {
  const fields = Object.values(model.fields).map((field) => fieldText(model.ruleset, field));
  return `<form method="post" aria-label="${escapeHtml(model.label)}">
${fields.join('\n')}
  <p><button type="submit">Save</button></p>
</form>
`;
}

function fieldText(ruleset: string, field: KnownField): string {
  const id = controlId(ruleset, field.path);
  const control = controlOf(field);
  const label = `<label for="${id}">${escapeHtml(field.label)}${field.optional ? ' (optional)' : ''}</label>`;
  const lines =
    control.element === 'checkbox'
      ? [controlText(id, field, control), label]
      : [label, controlText(id, field, control)];
  return `  <p>\n    ${[...lines, `<span id="${id}-message" aria-live="polite"></span>`].join('\n    ')}\n  </p>`;
}

function controlText(id: string, field: KnownField, { element, attributes, options }: Control): string {
  const own = { id, name: field.path, ...attributes, 'aria-describedby': `${id}-message` };
  const text = printAttributes(own);
  if (element === 'textarea') return `<textarea ${text} rows="4"></textarea>`;
  if (element === 'input') return `<input ${text}>`;
  if (element === 'checkbox') return `<input type="hidden" name="${field.path}" value="false">\n    <input ${text}>`;
  const list = (options ?? []).map(
    ([value, label]) => `<option value="${escapeHtml(value)}">${escapeHtml(label)}</option>`,
  );
  return `<select ${text}>\n      ${list.join('\n      ')}\n    </select>`;
}

function printAttributes(attributes: { readonly [name: string]: string | true }): string {
  return Object.entries(attributes)
    .map(([name, value]) => (value === true ? name : `${name}="${escapeHtml(value)}"`))
    .join(' ');
}

function attributesText(model: Schema[number]): string {
  const controls = Object.values(model.fields).map((field) => [field.path, controlOf(field)] as const);
  return `/** The native control of each field: element, attributes, options. */
export const controls = ${JSON.stringify(Object.fromEntries(controls), null, 2)};
`;
}
