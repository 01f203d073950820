import { addressOf, withoutPassword } from '../addresses.js';
import type { HttpAnswer, HttpOptions } from './options.js';
import { usual } from './options.js';

/** What came of a request: an answer, or why there is none. */
export type Sent = HttpAnswer | { readonly unanswered: string };

/** Sends requests to the origins of a layer's own addresses, and to no others. Redirects are told, not followed. */
export class Sender {
  readonly #origins: ReadonlySet<string>;
  readonly #headers: { readonly [name: string]: string };
  readonly #timeout: number;

  constructor({ records, headers = {}, timeout = usual.timeout }: HttpOptions) {
    const addresses = Object.values(records).flatMap((one) =>
      [one.create, one.record, one.all].filter((address) => address !== undefined),
    );
    this.#origins = new Set(addresses.map((address) => new URL(addressOf(address)).origin));
    this.#headers = Object.fromEntries(Object.entries(headers).map(([name, value]) => [name, addressOf(value)]));
    this.#timeout = timeout;
  }

  get origins(): readonly string[] {
    return [...this.#origins];
  }

  /** True for an address that requests may go to. */
  isOwn(address: string): boolean {
    return URL.canParse(address) && this.#origins.has(new URL(address).origin);
  }

  /** Sends a body as JSON, or as a form's entries; undefined for none. */
  async send(method: string, address: string, body?: unknown, wire: 'json' | 'form' = 'json'): Promise<Sent> {
    if (!this.isOwn(address)) return { unanswered: `${address} is at none of the layer's own addresses` };
    const type = wire === 'json' ? 'application/json' : 'application/x-www-form-urlencoded';
    try {
      const response = await fetch(address, {
        method,
        redirect: 'manual',
        signal: AbortSignal.timeout(this.#timeout),
        headers: {
          accept: 'application/json, application/problem+json',
          ...(body === undefined ? {} : { 'content-type': type }),
          ...this.#headers,
        },
        ...(body === undefined ? {} : { body: wire === 'json' ? JSON.stringify(body) : entriesOf(body) }),
      });
      const headers = Object.fromEntries([...response.headers].map(([name, value]) => [name.toLowerCase(), value]));
      return { status: response.status, headers, body: bodyOf(await response.text()) };
    } catch (error) {
      return { unanswered: this.#why(error, address) };
    }
  }

  #why(error: unknown, address: string): string {
    const { name, cause } = error as { readonly name?: string; readonly cause?: unknown };
    if (name === 'TimeoutError') return `no answer within ${this.#timeout / 1000} s`;
    const code = (cause as { readonly code?: unknown } | undefined)?.code;
    return typeof code === 'string' ? `no answer: ${code}` : `no answer: ${withoutPassword(cause ?? error, address)}`;
  }
}

/** A form's entries, those of a list one after the other. */
function entriesOf(input: unknown): URLSearchParams {
  const entries = Object.entries(input as { readonly [name: string]: unknown });
  return new URLSearchParams(entries.flatMap(([name, value]) => [value].flat().map((one) => [name, String(one)])));
}

function bodyOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
}
