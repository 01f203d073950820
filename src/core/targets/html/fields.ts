import { encodeValue, isRealDate, type KnownField, targetOf } from '../../kinds/index.js';
import { valueText } from './controls.js';
import { controlId, rowMark } from './names.js';
import { inPage, recordIn, type Shown, textIn } from './state.js';
import { type Element, element, type Markup } from './tree.js';
import { type Control, selectOf } from './types.js';

/** How many rows a list begins with, at most: with script off nobody can add any. */
const MOST_ROWS = 4;

/** Where a field stands in the form. */
export interface At {
  /** The name of its control: `shelf[bay]`. */
  readonly name: string;
  /** The JSON Pointer of what it shows; null in a row that nothing is in. */
  readonly pointer: string | null;
  /** What is in an optional record, or in a row that may stay blank, is required only where something of it is there. */
  readonly inOptional: boolean;
  /** How many lists it is in. */
  readonly depth: number;
  /** Of an item: its number from 1, as people count. */
  readonly number: string | null;
}

/** A field with its label, its control and the place of its message; a record or list as a frame of what is in it. */
export function fieldMarkup(shown: Shown, field: KnownField, tree: unknown, at: At): Element {
  if (field.fields !== null) return frame(shown, field, at, {}, recordParts(shown, field, tree, at));
  return field.item === null ? valueMarkup(shown, field, tree, at) : listMarkup(shown, field, field.item, tree, at);
}

function labelOf(shown: Shown, field: KnownField, { number }: At): readonly Markup[] {
  const optional = field.optional ? ` (${shown.word('form.optional')})` : '';
  if (number === null) return [`${shown.label(field)}${optional}`];
  return [`${shown.label(field)} `, numbered(number), ...(optional === '' ? [] : [optional])];
}

/** A row's number, where script finds it: rows before it may come and go. */
function numbered(number: string): Element {
  return element('span', { 'data-number': true }, number);
}

function messagesAt({ violations }: Shown, { pointer }: At): string {
  return violations
    .filter((one) => one.pointer === pointer)
    .map(({ message }) => message)
    .join(' ');
}

function recordParts(shown: Shown, { fields, optional }: KnownField, tree: unknown, at: At): readonly Markup[] {
  const given = recordIn(tree);
  return inPage(fields ?? {}).map((one) => {
    const inner = Object.hasOwn(given, one.name) ? given[one.name] : null;
    const pointer = at.pointer === null ? null : `${at.pointer}/${one.name}`;
    const inOptional = at.inOptional || optional;
    return fieldMarkup(shown, one, inner, {
      ...at,
      name: `${at.name}[${one.name}]`,
      pointer,
      inOptional,
      number: null,
    });
  });
}

/** A fieldset; `tabindex` lets a link in the summary lead to it. */
function frame(
  shown: Shown,
  field: KnownField,
  at: At,
  more: Element['attributes'],
  parts: readonly Markup[],
): Element {
  const id = controlId(shown.model.ruleset, at.name);
  const message = messagesAt(shown, at);
  const hint = field.hint === null ? [] : [hintMarkup(id, field.hint)];
  const described = [...(field.hint === null ? [] : [`${id}-hint`]), `${id}-message`].join(' ');
  const attributes = { id, name: at.name, tabindex: '-1', 'aria-describedby': described, ...more };
  const legend = element('legend', {}, ...labelOf(shown, field, at));
  return element('fieldset', attributes, legend, ...hint, ...parts, messagePlace(id, message));
}

function listMarkup(shown: Shown, field: KnownField, item: KnownField, tree: unknown, at: At): Element {
  const items: readonly unknown[] = Array.isArray(tree) ? tree : [];
  const least = Number(field.facets.minItems ?? 0);
  const most = Number(field.facets.maxItems ?? Number.POSITIVE_INFINITY);
  const rows = Math.max(items.length, Math.min(most, Math.max(least, MOST_ROWS, items.length + 1)));
  const depth = at.depth + 1;
  const rowAt = (index: number): At => ({
    name: `${at.name}[${index}]`,
    pointer: at.pointer === null || index >= items.length ? null : `${at.pointer}/${index}`,
    inOptional: true,
    depth,
    number: String(index + 1),
  });
  const copied = { ...rowAt(items.length), name: `${at.name}[${rowMark(depth)}]` };
  const button = (does: string, ...words: readonly Markup[]) =>
    element('button', { type: 'button', [`data-${does}`]: true, hidden: true }, ...words);
  const row = (value: unknown, place: At) =>
    element(
      'div',
      { class: 'row', 'data-row': true },
      fieldMarkup(shown, item, value, place),
      button('remove', `${shown.word('form.remove', shown.label(item))} `, numbered(place.number ?? '')),
    );
  const limits = { 'data-list': String(depth), 'data-least': String(least) };
  return frame(
    shown,
    field,
    at,
    most === Number.POSITIVE_INFINITY ? limits : { ...limits, 'data-most': String(most) },
    [
      ...Array.from({ length: rows }, (_, index) => row(items[index] ?? null, rowAt(index))),
      element('template', {}, row(null, copied)),
      element(
        'p',
        { class: 'buttons' },
        button('add', shown.word('form.add', shown.label(item))),
        button('put-back', shown.word('form.putBack')),
      ),
    ],
  );
}

function valueMarkup(shown: Shown, field: KnownField, tree: unknown, at: At): Element {
  const id = controlId(shown.model.ruleset, at.name);
  const message = messagesAt(shown, at);
  const isKept = field.concealed && shown.isStored;
  const drawn = controlFor(shown, field, isKept ? { ...at, inOptional: true } : at);
  const control = filled(drawn, valueIn(shown, field, tree));
  const { title } = control.attributes;
  // What is told apart from the words of the declaration: how a value looks that is taken.
  const looks = field.hint ?? (typeof title === 'string' ? title : null);
  const hint = isKept ? [shown.word('form.kept'), ...(looks === null ? [] : [looks])].join(' ') : looks;
  const described = [...(hint === null ? [] : [`${id}-hint`]), `${id}-message`].join(' ');
  const attributes = {
    id,
    name: at.name,
    ...control.attributes,
    'aria-describedby': described,
    ...(message === '' ? {} : { 'aria-invalid': 'true' }),
  };
  const label = element('label', { for: id }, ...labelOf(shown, field, at));
  const parts = valueText(control, attributes);
  const isBox = control.element === 'checkbox';
  return element(
    'p',
    { class: isBox ? 'field box' : 'field' },
    ...(isBox ? [...parts, label] : [label, ...parts]),
    ...(hint === null ? [] : [hintMarkup(id, hint)]),
    messagePlace(id, message),
  );
}

function hintMarkup(id: string, hint: string): Element {
  return element('small', { id: `${id}-hint`, class: 'hint' }, hint);
}

function messagePlace(id: string, message: string): Element {
  return element('span', { id: `${id}-message`, class: 'message', 'aria-live': 'polite' }, message);
}

function controlFor(shown: Shown, field: KnownField, { inOptional }: At): Control {
  const target = targetOf(field);
  const options = target === null ? null : shown.options(target.to);
  if (target === null || options === null) return shown.drawn.control(field, inOptional);
  const select = selectOf({ ...field, optional: field.optional || inOptional }, options);
  return { ...select, attributes: { ...select.attributes, 'data-refers-to': target.to } };
}

/** The text that the control shows: what was sent or is stored, in a new form the default. Secrets are never shown. */
function valueIn({ tree: whole }: Shown, field: KnownField, tree: unknown): string {
  if (field.concealed) return '';
  const isNew = whole === null && field.default !== null;
  return isNew ? String(encodeValue(field, field.default, 'form')) : (textIn(tree) ?? '');
}

function filled(control: Control, text: string): Control {
  const { element: kind, attributes, options = [] } = control;
  if (kind === 'checkbox')
    return text === 'true' || text === 'on' ? withAttributes(control, { checked: true }) : control;
  if (text === '') return control;
  if (kind === 'textarea') return { ...control, holds: text };
  if (kind === 'select') {
    // What was chosen and is gone stays to be seen, and is refused again.
    const known = options.some(([value]) => value === text);
    return { ...control, holds: text, options: known ? options : [...options, [text, text]] };
  }
  // A date control shows nothing but days: what was sent otherwise would be lost.
  const isHidden = attributes.type === 'date' && !isRealDate(text);
  return withAttributes(control, { value: text, ...(isHidden ? { type: 'text' } : {}) });
}

function withAttributes(control: Control, more: Control['attributes']): Control {
  return { ...control, attributes: { ...control.attributes, ...more } };
}
