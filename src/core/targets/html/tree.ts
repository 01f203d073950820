/** A small tree of markup, printed at the end. Text is content: it is escaped, always. */
export type Markup = Element | string;

export interface Element {
  readonly tag: string;
  /** An attribute that is true stands alone; one that is false or undefined is left out. */
  readonly attributes: { readonly [name: string]: string | boolean | undefined };
  readonly children: readonly Markup[];
}

/** An element with its attributes, in the order in which they are printed, and what is in it. */
export function element(tag: string, attributes: Element['attributes'], ...children: readonly Markup[]): Element {
  return { tag, attributes, children };
}

/** Elements that have no content and no end. */
const voids = ['input'];
/** What holds other blocks stands on lines of its own. */
const blocks = 'form fieldset div p select option ul li template textarea'.split(' ');
/** Line ends are content here, and the first of them is dropped by whoever reads the markup. */
const kept = ['textarea'];

/** The text of markup, each block on lines of its own. */
export function printHtml(tree: Markup, indent = ''): string {
  if (typeof tree === 'string') return escapeHtml(tree);
  const { tag, children } = tree;
  const open = `<${[tag, ...printedAttributes(tree.attributes)].join(' ')}>`;
  if (voids.includes(tag)) return open;
  if (kept.includes(tag)) {
    const text = children.map((child) => printHtml(child)).join('');
    return `${open}${text.startsWith('\n') ? '\n' : ''}${text}</${tag}>`;
  }
  const isInline = children.every((child) => typeof child === 'string') || !blocks.includes(tag);
  if (isInline) return `${open}${children.map((child) => printHtml(child, indent)).join('')}</${tag}>`;
  const inner = `${indent}  `;
  const lines = children.map((child) => `${inner}${printHtml(child, inner)}`);
  return `${open}\n${lines.join('\n')}\n${indent}</${tag}>`;
}

function printedAttributes(attributes: Element['attributes']): readonly string[] {
  return Object.entries(attributes).flatMap(([name, value]) => {
    if (value === undefined || value === false) return [];
    return [value === true ? name : `${name}="${escapeHtml(value)}"`];
  });
}

/** Text for an attribute value or for content. */
export function escapeHtml(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
}
