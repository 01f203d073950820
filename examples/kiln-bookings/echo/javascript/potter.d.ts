// Made by echo-rule from rules/potter.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-57894a36ce29f2681fd1cb396fc294246333dc15f8cbfefc2eaab9521c742a83

export interface Violation {
  /** An RFC 6901 JSON Pointer to the field. */
  readonly pointer: string;
  readonly rule: string;
  readonly message: string;
}

/** A canonical record: every field is there, absent is null. */
export interface Potter {
  readonly handle: string;
  readonly name: string;
  readonly phone: string | null;
  readonly memberSince: string;
  readonly inducted: boolean;
}

export type Checked =
  | { readonly ok: true; readonly value: Potter }
  | { readonly ok: false; readonly violations: readonly Violation[] };

export declare const fields: {
  readonly handle: { readonly label: string; readonly required: boolean };
  readonly name: { readonly label: string; readonly required: boolean };
  readonly phone: { readonly label: string; readonly required: boolean };
  readonly memberSince: { readonly label: string; readonly required: boolean };
  readonly inducted: { readonly label: string; readonly required: boolean };
};

export declare function check(input: unknown, how?: { readonly wire?: 'json' | 'form' }): Checked;
