import type { Path } from '../../model/index.js';

/** Text for an attribute value or for content. */
export function escapeHtml(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
}

/** The id of a field's control, by its name; its message place has `-message` behind it. */
export function controlId(ruleset: string, name: string): string {
  return `${ruleset}-${name.replaceAll('[', '-').replaceAll(']', '')}`;
}

/** The name of a field's control: `shelf[bay]`; of an item, at an index: `helpers[0]`. */
export function controlName(path: Path, index = 0): string {
  const [first = '', ...rest] = path.replaceAll('[]', `.${index}`).split('.');
  return `${first}${rest.map((step) => `[${step}]`).join('')}`;
}
