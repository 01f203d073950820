/** Names always stand in back quotes, as the engine itself shows them: its list of reserved words grows. */
export function quoteName(name: string): string {
  return `\`${name.replaceAll('`', '``')}\``;
}

/** Literals read a backslash as an escape, unless the session says NO_BACKSLASH_ESCAPES: see the head of the script. */
export function quoteText(text: string): string {
  return `'${text.replaceAll('\\', '\\\\').replaceAll("'", "''").replaceAll('\0', '\\0').replaceAll('\x1a', '\\Z')}'`;
}

export const spelling = { name: quoteName, text: quoteText, truth: (value: boolean) => String(value) };
