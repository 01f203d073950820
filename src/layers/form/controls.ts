import { type DefaultTreeAdapterMap, parse } from 'parse5';

type Node = DefaultTreeAdapterMap['node'];
type Element = DefaultTreeAdapterMap['element'];

/** A control as it stands in the markup. */
export interface Control {
  /** An input's type, or `select` or `textarea`. */
  readonly type: string;
  readonly name: string;
  readonly attributes: ReadonlyMap<string, string>;
  /** Of a select: its options, in order. */
  readonly options: readonly { readonly value: string; readonly disabled: boolean }[];
}

export interface Form {
  readonly controls: readonly Control[];
  /** The attribute `novalidate`: nothing is checked before sending. */
  readonly unchecked: boolean;
}

/** Types that the HTML standard knows; any other is read as text. */
const INPUT_TYPES = new Set(
  `hidden text search tel url email password date month week time datetime-local number range color checkbox radio file
  submit image reset button`.split(/\s+/),
);

/** The first form of a page that has a control with a name, or null where there is none. Disabled controls are left out. */
export function readForm(html: string): Form | null {
  const forms = elements(parse(html)).filter(({ tagName }) => tagName === 'form');
  const read = forms.map((form) => ({
    controls: elements(form).flatMap(controlOf),
    unchecked: attributesOf(form).has('novalidate'),
  }));
  return read.find(({ controls }) => controls.length > 0) ?? null;
}

function controlOf(element: Element): readonly Control[] {
  const attributes = attributesOf(element);
  const name = attributes.get('name') ?? '';
  if (name === '' || attributes.has('disabled')) return [];
  const control = { name, attributes, options: [] };
  if (element.tagName === 'textarea') return [{ ...control, type: 'textarea' }];
  if (element.tagName === 'select') return [{ ...control, type: 'select', options: optionsOf(element) }];
  if (element.tagName !== 'input') return [];
  const type = (attributes.get('type') ?? 'text').toLowerCase();
  return [{ ...control, type: INPUT_TYPES.has(type) ? type : 'text' }];
}

/** An option without a value attribute has its text, stripped and with inner white space collapsed. */
function optionsOf(select: Element): Control['options'] {
  const options = elements(select).filter(({ tagName }) => tagName === 'option');
  return options.map((option) => {
    const attributes = attributesOf(option);
    const text = textOf(option)
      .replace(/[\t\n\f\r ]+/g, ' ')
      .trim();
    return { value: attributes.get('value') ?? text, disabled: attributes.has('disabled') };
  });
}

function attributesOf(element: Element): ReadonlyMap<string, string> {
  return new Map(element.attrs.map(({ name, value }) => [name, value]));
}

/** Every element below a node, in tree order. */
function elements(node: Node): readonly Element[] {
  const children = 'childNodes' in node ? node.childNodes : [];
  return children.flatMap((child) => ('tagName' in child ? [child, ...elements(child)] : elements(child)));
}

function textOf(node: Node): string {
  if (node.nodeName === '#text' && 'value' in node) return node.value;
  return 'childNodes' in node ? node.childNodes.map(textOf).join('') : '';
}
