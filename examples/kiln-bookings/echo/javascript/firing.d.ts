// Made by echo-rule from rules/firing.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-6ac321d3b49bb828e87d95532e81ad25a7643acee0d7c21c9bd998afe08a2494

export interface Violation {
  /** An RFC 6901 JSON Pointer to the field. */
  readonly pointer: string;
  readonly rule: string;
  readonly message: string;
}

/** A canonical record: every field is there, absent is null. */
export interface Firing {
  readonly tag: string;
  readonly kiln: string;
  readonly potter: string;
  readonly title: string;
  readonly pieces: number;
  readonly peak: number;
  readonly glaze: "none" | "celadon" | "tenmoku" | "lustre";
  readonly vented: boolean;
  readonly loadOn: string;
  readonly collectOn: string | null;
  readonly notes: string | null;
}

export type Checked =
  | { readonly ok: true; readonly value: Firing }
  | { readonly ok: false; readonly violations: readonly Violation[] };

export declare const fields: {
  readonly tag: { readonly label: string; readonly required: boolean };
  readonly kiln: { readonly label: string; readonly required: boolean };
  readonly potter: { readonly label: string; readonly required: boolean };
  readonly title: { readonly label: string; readonly required: boolean };
  readonly pieces: { readonly label: string; readonly required: boolean };
  readonly peak: { readonly label: string; readonly required: boolean };
  readonly glaze: { readonly label: string; readonly required: boolean; readonly choices: readonly (readonly [string, string])[] };
  readonly vented: { readonly label: string; readonly required: boolean };
  readonly loadOn: { readonly label: string; readonly required: boolean };
  readonly collectOn: { readonly label: string; readonly required: boolean };
  readonly notes: { readonly label: string; readonly required: boolean };
};

export declare function check(input: unknown, how?: { readonly wire?: 'json' | 'form' }): Checked;
