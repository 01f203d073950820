// Made by echo-rule from rules/firing.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-7b6bf6d95865390b386218ba7dd4def79cdec7479463cbea79c7c29cc442c499

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
  readonly fee: number | null;
  readonly loadOn: string;
  readonly collectOn: string | null;
  readonly shelf: {
    readonly bay: string;
    readonly level: number;
  } | null;
  readonly helpers: readonly string[];
  readonly notes: string | null;
}

export type Checked<T = Firing> =
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
  readonly tag: { readonly label: string; readonly required: boolean };
  readonly kiln: { readonly label: string; readonly required: boolean };
  readonly potter: { readonly label: string; readonly required: boolean };
  readonly title: { readonly label: string; readonly required: boolean };
  readonly pieces: { readonly label: string; readonly required: boolean };
  readonly peak: { readonly label: string; readonly required: boolean };
  readonly glaze: { readonly label: string; readonly required: boolean; readonly choices: readonly (readonly [string, string])[] };
  readonly vented: { readonly label: string; readonly required: boolean };
  readonly fee: { readonly label: string; readonly required: boolean };
  readonly loadOn: { readonly label: string; readonly required: boolean };
  readonly collectOn: { readonly label: string; readonly required: boolean };
  readonly shelf: { readonly label: string; readonly required: boolean };
  readonly 'shelf.bay': { readonly label: string; readonly required: boolean };
  readonly 'shelf.level': { readonly label: string; readonly required: boolean };
  readonly helpers: { readonly label: string; readonly required: boolean };
  readonly 'helpers[]': { readonly label: string; readonly required: boolean };
  readonly notes: { readonly label: string; readonly required: boolean };
};

export declare function check(input: unknown, how?: How & { readonly partial?: false }): Checked;
export declare function check(input: unknown, how: How): Checked<Partial<Firing>>;
/** Once more, as types are inferred from what stands last. */
export declare function check(input: unknown, how?: How & { readonly partial?: false }): Checked;
