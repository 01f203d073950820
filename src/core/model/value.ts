/** What a field can hold: JSON's values. `null` is the one spelling of "absent" once a record has been decoded. */
export type Value = null | string | number | boolean | readonly Value[] | { readonly [name: string]: Value };

/** One record: its fields by name. */
export type Row = { readonly [name: string]: Value };

/** How a record travels: a form's entries (all text), JSON, or the values that a database driver binds. */
export type Wire = 'form' | 'json' | 'row';
export const wires = ['form', 'json', 'row'] as const satisfies readonly Wire[];

/** The dotted path of a field within its ruleset, such as `tag`. */
export type Path = string;

/** Where something was declared: an absolute file (or its URL) and a line counted from 1; line 0 when unknown. */
export type Place = { readonly file: string; readonly line: number };

/** The clock that rules about today are judged by: an ISO 8601 instant and an IANA time zone. */
export type Clock = { readonly instant: string; readonly zone: string };

/** A regular expression as data: ECMAScript syntax; the flags hold `u` or `v`, and perhaps `i` and `s`. */
export type Pattern = { readonly source: string; readonly flags: string };
