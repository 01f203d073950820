import type { Page, Request } from 'playwright-core';

/** What a page sends: a body as a form's entries, or as JSON. */
export type Posted = { readonly entries: { readonly [name: string]: readonly string[] } } | { readonly json: unknown };

/** Keeps what a page sends from leaving the browser: the first request that carries a record is what it sent. */
export class Requests {
  #posted: Posted | null = null;
  #isSending = false;
  #names: ReadonlySet<string> = new Set();
  #hasLeft = false;
  #waiting: (() => void) | null = null;

  /** Lets a page load what it needs from its own origin, and nothing else. */
  async watch(page: Page, address: string): Promise<void> {
    const { origin, protocol } = new URL(address);
    await page.route('**', async (route) => {
      const request = route.request();
      const isOwn =
        new URL(request.url()).origin === origin && (protocol !== 'file:' || request.url().startsWith('file:'));
      if (this.#carries(request)) {
        this.#posted ??= postedBy(request);
        this.#waiting?.();
        // No content: the page stays where it is.
        return route.fulfill({ status: 204 });
      }
      if (this.#leaves(request)) {
        this.#hasLeft = true;
        return route.fulfill({ status: 204 });
      }
      return isOwn || protocol === 'file:' ? route.continue() : route.abort();
    });
  }

  /** @param names of the controls of the form that is sent now */
  begin(names: Iterable<string>): void {
    this.#posted = null;
    this.#hasLeft = false;
    this.#names = new Set(names);
  }

  /** True where the page would have gone to another one since then, and was kept. */
  get hasLeft(): boolean {
    return this.#hasLeft;
  }

  /** What was sent, once it is; null where nothing is within so many milliseconds. */
  async within(milliseconds: number): Promise<Posted | null> {
    if (this.#posted === null && milliseconds > 0) {
      let timer: NodeJS.Timeout | undefined;
      await new Promise<void>((resolve) => {
        this.#waiting = resolve;
        timer = setTimeout(resolve, milliseconds);
      });
      clearTimeout(timer);
      this.#waiting = null;
    }
    return this.#posted;
  }

  /** A form that is sent by GET asks for a page with its entries behind a question mark. */
  #carries(request: Request): boolean {
    if (request.method() !== 'GET') return !['HEAD', 'OPTIONS'].includes(request.method());
    if (!this.#leaves(request)) return false;
    return [...new URL(request.url()).searchParams.keys()].some((name) => this.#names.has(name));
  }

  /** A page that has sent something may go to another one, and late: the next case must not take that for its own. */
  #leaves(request: Request): boolean {
    return (
      request.method() === 'GET' &&
      request.isNavigationRequest() &&
      request.redirectedFrom() === null &&
      new URL(request.url()).search !== '' &&
      this.#isSending
    );
  }

  /** From here on, going to another page is sending. */
  sending(isSending: boolean): void {
    this.#isSending = isSending;
  }
}

function postedBy(request: Request): Posted {
  if (request.method() === 'GET') return { entries: entriesOf(new URL(request.url()).searchParams) };
  const type = request.headers()['content-type'] ?? '';
  const text = request.postData() ?? '';
  if (/json/.test(type)) return { json: parsed(text) };
  const boundary = /boundary=([^;]+)/.exec(type)?.[1];
  return { entries: boundary === undefined ? entriesOf(new URLSearchParams(text)) : partsOf(text, boundary) };
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
}

function entriesOf(params: URLSearchParams): { readonly [name: string]: readonly string[] } {
  return Object.fromEntries([...new Set(params.keys())].map((name) => [name, params.getAll(name)]));
}

/** The texts of multipart/form-data (RFC 7578); of files only their names are told. */
function partsOf(text: string, boundary: string): { readonly [name: string]: readonly string[] } {
  const parts = text.split(`--${boundary}`).flatMap((part): readonly (readonly [string, string])[] => {
    const [head = '', ...body] = part.replace(/^\r\n/, '').split('\r\n\r\n');
    const name = /\bname="((?:[^"\\]|\\.)*)"/.exec(head)?.[1];
    return name === undefined ? [] : [[name, body.join('\r\n\r\n').replace(/\r\n$/, '')]];
  });
  return Object.fromEntries(
    [...new Set(parts.map(([name]) => name))].map((name) => [
      name,
      parts.flatMap(([of, value]) => (of === name ? [value] : [])),
    ]),
  );
}
