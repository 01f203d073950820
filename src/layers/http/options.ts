import type { Case, WriteOperation } from '../../core/model/index.js';
import type { ExistingKeys } from '../existing-keys.js';
import type { FieldNames } from '../field-names.js';
import type { FunctionAnswer } from '../function.js';
import type { JudgedOptions } from '../layer.js';

/**
 * Where the records of one ruleset are; a name in braces is a field of the record, as in RFC 6570, or a member of the answer
 * that made it, such as a key that the store gives.
 */
export interface RecordAddresses {
  /** Where a new record is sent: `http://127.0.0.1:4173/firings`. Variables of the environment as `${NAME}`. */
  readonly create: string;
  /** `POST` unless told. */
  readonly method?: 'POST' | 'PUT';
  /**
   * Where one stored record is: `http://127.0.0.1:4173/firings/{tag}`. It is read there (GET), replaced (PUT), changed
   * (PATCH) and, once its case is answered, removed (DELETE). Without it, nothing is read back and nothing is removed.
   */
  readonly record?: string;
  /**
   * Where all stored records are listed (GET), without pages: a JSON list, or an object with one. It tells what a refusal
   * left behind where the store makes the key, so that nobody knows the address of what may be there.
   */
  readonly all?: string;
}

/** An answer as mappings see it: the body is what its JSON says, else its text. */
export interface HttpAnswer {
  readonly status: number;
  /** By their names in small letters. */
  readonly headers: { readonly [name: string]: string };
  readonly body: unknown;
}

/** Where a refusal tells its faults, as JSON Pointers (RFC 6901): into the body, and from there into each fault. */
export interface FaultPointers {
  /** The list of faults: `/violations` in a problem document of ours. */
  readonly faults: string;
  /** The field of a fault: a JSON Pointer, or the field's path. */
  readonly field: string;
  readonly rule?: string;
  readonly message?: string;
}

/** Sends one request of a set-up or a clean-up; only to an origin that the layer's own addresses have. */
export type Send = (method: string, address: string, body?: unknown) => Promise<HttpAnswer>;

export interface HttpOptions extends JudgedOptions {
  readonly records: { readonly [ruleset: string]: RecordAddresses };
  /** How records travel; JSON unless told. */
  readonly wires?: readonly ('json' | 'form')[];
  /** What it calls fields otherwise than declared, in what it takes and in what it answers. */
  readonly names?: FieldNames;
  /**
   * By ruleset, keys of records that are there and remain, such as those that the interface shows and does not take: cases
   * refer to them instead of records of their own.
   */
  readonly existing?: ExistingKeys;
  /** What it does with records: takes new ones unless told. The other two need the address of a stored record. */
  readonly does?: readonly WriteOperation[];
  /** Sent with every request; variables of the environment as `${NAME}`. */
  readonly headers?: { readonly [name: string]: string };
  /** How a refusal is read: a problem document (RFC 9457) with its violations unless told. */
  readonly faults?: FaultPointers | ((answer: HttpAnswer) => FunctionAnswer);
  /** The statuses of a refusal: 400, 409, 413 and 422 unless told. What is neither this nor a success is a breakdown. */
  readonly refusals?: readonly number[];
  /** Where an answer holds the stored record, as a JSON Pointer; the whole body unless told. */
  readonly stored?: string;
  /** How long an answer may take, in milliseconds: 10,000 unless told. */
  readonly timeout?: number;
  /** How many requests are under way at once: 4 unless told. */
  readonly atOnce?: number;
  /** Called before each case, and behind it whatever came of it. Cases are then asked one after the other. */
  readonly setUp?: (one: Case, send: Send) => Promise<void>;
  readonly cleanUp?: (one: Case, send: Send) => Promise<void>;
}

/** What an option is where it is not told. */
export const usual = { refusals: [400, 409, 413, 422], timeout: 10_000, atOnce: 4 } as const;
