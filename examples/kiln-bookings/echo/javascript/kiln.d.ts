// Made by echo-rule from rules/kiln.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-fdfd5bd84e7018a582227659a7f0edf9cb01d36b9551173fd7ac6aabab241e80

export interface Violation {
  /** An RFC 6901 JSON Pointer to the field. */
  readonly pointer: string;
  readonly rule: string;
  readonly message: string;
}

/** A canonical record: every field is there, absent is null. */
export interface Kiln {
  readonly code: string;
  readonly name: string;
  readonly hottest: number;
}

export type Checked =
  | { readonly ok: true; readonly value: Kiln }
  | { readonly ok: false; readonly violations: readonly Violation[] };

export declare const fields: {
  readonly code: { readonly label: string; readonly required: boolean };
  readonly name: { readonly label: string; readonly required: boolean };
  readonly hottest: { readonly label: string; readonly required: boolean };
};

export declare function check(input: unknown, how?: { readonly wire?: 'json' | 'form' }): Checked;
