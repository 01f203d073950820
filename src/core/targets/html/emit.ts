import type { Schema } from '../../declare/index.js';
import { encodeValue, type KnownField } from '../../kinds/index.js';
import { formName, isSent, plainFields } from '../../model/index.js';
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

/** How many rows a list begins with, at most. */
const MOST_ROWS = 4;

function formText(model: Schema[number]): string {
  const fields = shown(model.fields).map((field) =>
    fieldText(model.ruleset, field, { name: field.name, inOptional: false }, 1),
  );
  return `<form method="post" aria-label="${escapeHtml(model.label)}">
${fields.join('\n')}
  <p><button type="submit">Save</button></p>
</form>
`;
}

/** The fields that a page has controls for. */
function shown(fields: Schema[number]['fields']): readonly KnownField[] {
  return Object.values(fields).filter((field) => isSent(field) && field.enforcedIn.includes('client'));
}

interface Place {
  readonly name: string;
  /** What is in an optional record, or in a row that may stay blank, is required only where something of it is there. */
  readonly inOptional: boolean;
}

function fieldText(ruleset: string, field: KnownField, { name, inOptional }: Place, level: number): string {
  const indent = '  '.repeat(level);
  const legend = `${indent}  <legend>${escapeHtml(field.label)}${field.optional ? ' (optional)' : ''}</legend>`;
  const framed = (inner: readonly string[]) =>
    `${indent}<fieldset>\n${[legend, ...inner].join('\n')}\n${indent}</fieldset>`;
  const { fields, item } = field;
  if (fields !== null) {
    const optional = inOptional || field.optional;
    const inner = shown(fields).map((one) => ({ field: one, name: `${name}[${one.name}]` }));
    return framed(
      inner.map((one) => fieldText(ruleset, one.field, { name: one.name, inOptional: optional }, level + 1)),
    );
  }
  if (item !== null) {
    const rows = Math.min(Number(field.facets.maxItems ?? MOST_ROWS), MOST_ROWS);
    const row = (_: unknown, at: number) =>
      fieldText(ruleset, numbered(item, at), { name: `${name}[${at}]`, inOptional: true }, level + 1);
    return framed(Array.from({ length: rows }, row));
  }
  return valueText(ruleset, field, { name, inOptional }, indent);
}

function numbered(item: KnownField, at: number): KnownField {
  return { ...item, label: `${item.label} ${at + 1}` };
}

function valueText(ruleset: string, field: KnownField, { name, inOptional }: Place, indent: string): string {
  const id = controlId(ruleset, name);
  // A box that is not ticked says nothing, and is left as it is.
  const isBox = controlOf(field).element === 'checkbox';
  const control = prefilled(
    field,
    isBox ? unrequired(controlOf(field), inOptional) : controlOf({ ...field, optional: field.optional || inOptional }),
  );
  const label = `<label for="${id}">${escapeHtml(field.label)}${field.optional ? ' (optional)' : ''}</label>`;
  const lines =
    control.element === 'checkbox'
      ? [controlText(id, name, control, indent), label]
      : [label, controlText(id, name, control, indent)];
  const hint = field.hint === null ? [] : [`<small id="${id}-hint">${escapeHtml(field.hint)}</small>`];
  const all = [...lines, ...hint, `<span id="${id}-message" aria-live="polite"></span>`];
  return `${indent}<p>\n${indent}  ${all.join(`\n${indent}  `)}\n${indent}</p>`;
}

function unrequired({ attributes, ...control }: Control, inOptional: boolean): Control {
  const { required, ...others } = attributes;
  return { ...control, attributes: inOptional ? others : attributes };
}

/** A control with the field's default in it. */
function prefilled(field: KnownField, control: Control): Control {
  if (field.default === null) return control;
  const value = String(encodeValue(field, field.default, 'form'));
  if (control.element === 'checkbox')
    return value === 'true' ? { ...control, attributes: { ...control.attributes, checked: true } } : control;
  if (control.element !== 'input') return { ...control, holds: value };
  return { ...control, attributes: { ...control.attributes, value } };
}

function controlText(
  id: string,
  name: string,
  { element, attributes, options, holds = '' }: Control,
  indent: string,
): string {
  const own = { id, name, ...attributes, 'aria-describedby': `${id}-message` };
  const text = printAttributes(own);
  if (element === 'textarea') return `<textarea ${text} rows="4">${escapeHtml(holds)}</textarea>`;
  if (element === 'input') return `<input ${text}>`;
  if (element === 'checkbox') return `<input type="hidden" name="${name}" value="false">\n${indent}  <input ${text}>`;
  const list = (options ?? []).map(
    ([value, label]) =>
      `<option value="${escapeHtml(value)}"${value === holds && holds !== '' ? ' selected' : ''}>${escapeHtml(label)}</option>`,
  );
  return `<select ${text}>\n${indent}    ${list.join(`\n${indent}    `)}\n${indent}  </select>`;
}

function printAttributes(attributes: { readonly [name: string]: string | true }): string {
  return Object.entries(attributes)
    .map(([name, value]) => (value === true ? name : `${name}="${escapeHtml(value)}"`))
    .join(' ');
}

function attributesText(model: Schema[number]): string {
  const controls = plainFields(model)
    .filter((field) => isSent(field) && field.enforcedIn.includes('client') && field.item === null)
    .map((field) => [formName(field.path), controlOf(field)] as const);
  return `/** The native control of each field: element, attributes, options. */
export const controls = ${JSON.stringify(Object.fromEntries(controls), null, 2)};
`;
}
