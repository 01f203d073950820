// Made by echo-rule from rules/potter.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-e4d0ef1353aad99602ddf6e20f532c03faa05dd3040b11b381afca347c21ec76

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
  readonly email: string | null;
  readonly memberSince: string;
  readonly inducted: boolean;
}

export type Checked<T = Potter> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly violations: readonly Violation[] };

/** How a record came, and what it is checked with. */
export interface How {
  /** 'json' unless told. */
  readonly wire?: 'json' | 'form';
  /** A missing key means unchanged, null means cleared. */
  readonly partial?: boolean;
  /** Of a partial update, the stored record. */
  readonly existing?: object | null;
  /** Of a partial update by form, the paths of the fields that it showed. */
  readonly shown?: readonly string[];
  /** The machine's clock unless told: an ISO 8601 instant, and perhaps an IANA time zone. */
  readonly clock?: { readonly instant: string; readonly zone?: string };
  /** Who checks: the server unless told. */
  readonly on?: 'client' | 'server';
  /** Messages in another language, by rule. */
  readonly messages?: { readonly [rule: string]: string };
}

export declare const fields: {
  readonly handle: { readonly label: string; readonly required: boolean };
  readonly name: { readonly label: string; readonly required: boolean };
  readonly phone: { readonly label: string; readonly required: boolean };
  readonly email: { readonly label: string; readonly required: boolean };
  readonly memberSince: { readonly label: string; readonly required: boolean };
  readonly inducted: { readonly label: string; readonly required: boolean };
};

export declare function check(input: unknown, how?: How & { readonly partial?: false }): Checked;
export declare function check(input: unknown, how: How): Checked<Partial<Potter>>;
/** Once more, as types are inferred from what stands last. */
export declare function check(input: unknown, how?: How & { readonly partial?: false }): Checked;
