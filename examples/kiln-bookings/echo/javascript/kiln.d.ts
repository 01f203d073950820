// Made by echo-rule from rules/kiln.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-52bd384fd6a3f47ba25663ccdcecfbd5840c761cc3b1ef38b6501d0e0c8ebac5

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

export type Checked<T = Kiln> =
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
  readonly code: { readonly label: string; readonly required: boolean };
  readonly name: { readonly label: string; readonly required: boolean };
  readonly hottest: { readonly label: string; readonly required: boolean };
};

export declare function check(input: unknown, how?: How & { readonly partial?: false }): Checked;
export declare function check(input: unknown, how: How): Checked<Partial<Kiln>>;
/** Once more, as types are inferred from what stands last. */
export declare function check(input: unknown, how?: How & { readonly partial?: false }): Checked;
