/** The id of a field's control, by its name; its message place has `-message` behind it. */
export function controlId(ruleset: string, name: string): string {
  return `${ruleset}-${name.replaceAll('[', '-').replaceAll(']', '')}`;
}

/** What stands for its index in a row to be copied, by how deep its list is. */
export function rowMark(depth: number): string {
  return `{at${depth}}`;
}
