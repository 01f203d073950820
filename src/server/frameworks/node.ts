import { problem, problemResponse } from '../http/index.js';

/** What is asked of Node's `http.IncomingMessage`. */
export interface NodeRequest {
  readonly method?: string | undefined;
  readonly url?: string | undefined;
  readonly originalUrl?: string;
  readonly rawHeaders: readonly string[];
  readonly complete: boolean;
  readonly readableEnded: boolean;
  /** What a parser of the framework has made of it already. */
  readonly body?: unknown;
  on(event: 'data', does: (chunk: Uint8Array) => void): unknown;
  on(event: 'end', does: () => void): unknown;
  on(event: 'close', does: () => void): unknown;
  on(event: 'error', does: (error: Error) => void): unknown;
  pause(): unknown;
  resume(): unknown;
  destroy(): unknown;
}

/** What is asked of Node's `http.ServerResponse`. */
export interface NodeResponse {
  readonly destroyed: boolean;
  writeHead(status: number, headers: [string, string][]): unknown;
  write(bytes: Uint8Array): unknown;
  end(): unknown;
}

/** After an answer that came before the whole body, so much of the rest is let in, so that the answer gets through. */
const LINGER = 16_000_000;

/** A handler of `http.createServer`, and of frameworks that take the same two. */
export function nodeHandler<Q extends NodeRequest>(
  handler: (request: Request, context: Q) => Promise<Response>,
): (request: Q, response: NodeResponse) => Promise<void> {
  return async (incoming, outgoing) => {
    const request = requestOf(incoming);
    const response = request === null ? problemResponse(problem('url')) : await handler(request, incoming);
    await send(response, outgoing);
    let dropped = 0;
    if (incoming.complete) return;
    incoming.on('data', ({ length }: Uint8Array) => {
      dropped += length;
      if (dropped > LINGER) incoming.destroy();
    });
    incoming.resume();
  };
}

/** The request in the platform's own form; null where its address, method or headers are none. */
function requestOf(incoming: NodeRequest): Request | null {
  const { method = 'GET', rawHeaders } = incoming;
  try {
    const headers = new Headers();
    for (let at = 0; at + 1 < rawHeaders.length; at += 2)
      headers.append(rawHeaders[at] ?? '', rawHeaders[at + 1] ?? '');
    const host = headers.get('host') ?? 'localhost';
    const url = new URL(
      incoming.originalUrl ?? incoming.url ?? '/',
      URL.canParse(`http://${host}`) ? `http://${host}` : 'http://localhost',
    );
    const body = method === 'GET' || method === 'HEAD' ? null : bodyOf(incoming);
    // A body that is read as it comes has to say so (`duplex`, the Fetch standard).
    return new Request(url, { method, headers, body, ...(body === null ? {} : { duplex: 'half' }) } as RequestInit);
  } catch {
    return null;
  }
}

/** The bytes as they come; or what a parser before has made of JSON, as JSON again. */
function bodyOf(incoming: NodeRequest): BodyInit {
  const { body, readableEnded } = incoming;
  if (readableEnded && body !== undefined) return typeof body === 'string' ? body : JSON.stringify(body);
  return new ReadableStream<Uint8Array>({
    start(controller) {
      let isOpen = true;
      const close = (does: () => void) => () => {
        if (isOpen) does();
        isOpen = false;
      };
      incoming.on('data', (chunk: Uint8Array) => {
        if (!isOpen) return;
        controller.enqueue(chunk);
        if ((controller.desiredSize ?? 0) <= 0) incoming.pause();
      });
      incoming.on(
        'end',
        close(() => controller.close()),
      );
      const broken = close(() => controller.error(new Error('the request broke off')));
      incoming.on('error', broken);
      incoming.on('close', broken);
    },
    pull: () => void incoming.resume(),
    cancel: () => void incoming.pause(),
  });
}

async function send(response: Response, outgoing: NodeResponse): Promise<void> {
  if (outgoing.destroyed) return;
  const bytes = new Uint8Array(await response.arrayBuffer());
  outgoing.writeHead(response.status, [...response.headers]);
  if (bytes.length > 0) outgoing.write(bytes);
  outgoing.end();
}
