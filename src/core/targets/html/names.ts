/** The id of a field's control, by its name; its message place has `-message` behind it. */
export function controlId(ruleset: string, name: string): string {
  return `${ruleset}-${name.replaceAll('[', '-').replaceAll(']', '')}`;
}

/** What stands in a row to be copied for its index, and for its number from 1, by how deep its list is. */
export function rowMarks(depth: number): { readonly index: string; readonly number: string } {
  return { index: `{at${depth}}`, number: `{nr${depth}}` };
}
