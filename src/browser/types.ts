/** One broken rule: an RFC 6901 JSON Pointer, the rule's id, the words for a person. */
export interface Violation {
  readonly pointer: string;
  readonly rule: string;
  readonly message: string;
}

/** What a check gives. */
export type Checked<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly violations: readonly Violation[] };

/** How a page has a form checked. */
export interface How {
  readonly wire: 'form';
  readonly on: 'client';
  readonly partial?: boolean;
  readonly existing?: object | null;
  readonly shown?: readonly string[];
  readonly clock?: { readonly instant: string; readonly zone?: string };
  readonly messages?: { readonly [rule: string]: string };
}

/** A compiled module, or a validator in process. */
export interface Rules<T> {
  check(input: unknown, how: How & { readonly partial?: false }): Checked<T>;
  check(input: unknown, how: How): Checked<Partial<T>>;
  /** Once more, as types are inferred from what stands last. */
  check(input: unknown, how: How & { readonly partial?: false }): Checked<T>;
  /** What is known of the fields, by path: what is typed into a concealed one is never shown. */
  readonly fields?: { readonly [path: string]: { readonly label: string; readonly concealed?: boolean } };
}
