import { type Element, element } from './tree.js';
import type { Control } from './types.js';

/** The elements of a control: a box has a hidden one before it, so that an unticked one sends `false`. */
export function valueText(
  { element: kind, holds = '', options = [] }: Control,
  own: Element['attributes'],
): readonly Element[] {
  if (kind === 'checkbox')
    return [element('input', { type: 'hidden', name: own.name, value: 'false' }), element('input', own)];
  if (kind === 'textarea') return [element('textarea', { ...own, rows: '4' }, holds)];
  if (kind === 'input') return [element('input', own)];
  const listed = options.map(([value, label]) =>
    element('option', { value, selected: holds !== '' && value === holds }, label),
  );
  return [element('select', own, ...listed)];
}
