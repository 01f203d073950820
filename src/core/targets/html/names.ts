/** Text for an attribute value or for content. */
export function escapeHtml(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
}

/** The id of a field's control; its message place has `-message` behind it. */
export function controlId(ruleset: string, path: string): string {
  return `${ruleset}-${path}`;
}
