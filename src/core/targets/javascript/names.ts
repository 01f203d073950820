/** Words that can't name a variable in a module (ECMA-262, reserved words and strict mode), and those the module uses. */
const TAKEN = new Set(
  `arguments await break case catch class const continue debugger default delete do else enum eval export extends false
  finally for function if implements import in instanceof interface let new null package private protected public return
  static super switch this throw true try typeof undefined var void while with yield
  check fields input wire form violations fail keys key declared pointerTo Array Number Object String`.split(/\s+/),
);

/** The variable of a field: its name, with a mark behind it where the name is taken. */
export function variableOf(field: string): string {
  return TAKEN.has(field) || /^(?:read|entry|length|damaged|pattern|codes|real)[A-Z]?/.test(field)
    ? `${field}_`
    : field;
}

/** The name of a constant that belongs to a field or rule: `patternTag`. */
export function constantOf(what: string, of: string): string {
  return `${what}${of.charAt(0).toUpperCase()}${of.slice(1)}`;
}
