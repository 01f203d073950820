/** JavaScript as a small tree; only the printer knows spacing, parentheses and quoting. */
export type Js =
  | { readonly name: string }
  | { readonly literal: unknown }
  | { readonly regex: { readonly source: string; readonly flags: string } }
  | { readonly call: string; readonly of: readonly Js[] }
  | { readonly member: Js; readonly property: string }
  | { readonly left: Js; readonly by: string; readonly right: Js }
  | { readonly sum: readonly Js[] }
  | { readonly not: Js }
  | { readonly all: readonly Js[] }
  | { readonly any: readonly Js[] }
  | { readonly takes: string; readonly gives: Js }
  | { readonly when: Js; readonly yes: Js; readonly no: Js }
  | { readonly element: Js; readonly at: Js }
  | { readonly list: readonly Js[] }
  | { readonly object: readonly (readonly [key: string, value: Js])[] }
  /** A text with values in it, such as a pointer within a list. */
  | { readonly parts: readonly (string | Js)[] };

export type Statement =
  | { readonly constant: string; readonly is: Js }
  | { readonly variable: string; readonly is: Js | null }
  | { readonly set: string; readonly is: Js }
  | { readonly run: Js }
  | { readonly returns: Js }
  | { readonly when: Js; readonly does: readonly Statement[]; readonly otherwise?: readonly Statement[] }
  /** The body, once for each index of a list. */
  | { readonly index: string; readonly below: Js; readonly does: readonly Statement[] }
  /** The body, once for each key of a record. */
  | { readonly key: string; readonly of: Js; readonly does: readonly Statement[] }
  | { readonly text: string };

export const nothing: Js = { literal: null };
export const unread: Js = { name: 'undefined' };

export function name(of: string): Js {
  return { name: of };
}
export function literal(value: unknown): Js {
  return { literal: value };
}
export function call(what: string, ...of: readonly Js[]): Js {
  return { call: what, of };
}
export function binary(left: Js, by: string, right: Js): Js {
  return { left, by, right };
}
export function member(of: Js, property: string): Js {
  return { member: of, property };
}
/** All of them; those that are lists of the same sort already are taken apart. */
export function all(...parts: readonly Js[]): Js {
  const flat = parts.flatMap((part) => ('all' in part ? part.all : [part]));
  return flat.length === 1 && flat[0] !== undefined ? flat[0] : flat.length === 0 ? literal(true) : { all: flat };
}
/** Any of them, likewise. */
export function any(...parts: readonly Js[]): Js {
  const flat = parts.flatMap((part) => ('any' in part ? part.any : [part]));
  return flat.length === 1 && flat[0] !== undefined ? flat[0] : flat.length === 0 ? literal(false) : { any: flat };
}
