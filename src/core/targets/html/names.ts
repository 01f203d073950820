/** Text for an attribute value or for content. */
export function escapeHtml(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
}

/** The id of a field's control, by its name; its message place has `-message` behind it. */
export function controlId(ruleset: string, name: string): string {
  return `${ruleset}-${name.replaceAll('[', '-').replaceAll(']', '')}`;
}
