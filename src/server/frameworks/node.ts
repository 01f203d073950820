import { problem, problemResponse } from '../http/index.js';

/** What is asked of Node's `http.IncomingMessage`. */
export interface NodeRequest {
  readonly method?: string | undefined;
  readonly url?: string | undefined;
  readonly originalUrl?: string;
  readonly rawHeaders: readonly string[];
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
  statusCode: number;
  setHeader(name: string, value: string | string[]): unknown;
  end(bytes: Uint8Array): unknown;
}

/** After an answer that came before the whole body, so much of the rest is let in, so that the answer gets through. */
const LINGER = 16_000_000;

type Handler<Q> = (request: Request, context: Q) => Promise<Response>;

/**
 * A handler of `http.createServer`, and of frameworks that take the same two.
 *
 * @param fault called with what the handler throws; the answer is a problem document then, and the server goes on
 */
export function nodeHandler<Q extends NodeRequest>(
  handler: Handler<Q>,
  fault: (error: unknown) => void = () => {},
): (request: Q, response: NodeResponse) => Promise<void> {
  return (incoming, outgoing) =>
    answering(
      (request, context) =>
        handler(request, context).catch((error: unknown) => {
          fault(error);
          return problemResponse(problem('fault'));
        }),
      incoming,
      outgoing,
    );
}

/** Answers a request of Node's; what the handler throws is thrown on. */
export async function answering<Q extends NodeRequest>(
  handler: Handler<Q>,
  incoming: Q,
  outgoing: NodeResponse,
): Promise<void> {
  const body = bodyOf(incoming);
  const request = requestOf(incoming, body.init);
  const response = request === null ? problemResponse(problem('url')) : await handler(request, incoming);
  await send(response, outgoing);
  // What nobody read would keep the next request of the connection waiting.
  body.drop();
}

/** The request in the platform's own form; null where its address, method or headers are none. */
function requestOf(incoming: NodeRequest, body: BodyInit | null): Request | null {
  const { method = 'GET', rawHeaders } = incoming;
  try {
    const headers = new Headers();
    for (let at = 0; at + 1 < rawHeaders.length; at += 2)
      headers.append(rawHeaders[at] ?? '', rawHeaders[at + 1] ?? '');
    const host = `http://${headers.get('host') ?? 'localhost'}`;
    const url = new URL(incoming.originalUrl ?? incoming.url ?? '/', URL.canParse(host) ? host : 'http://localhost');
    // A body that is read as it comes has to say so (`duplex`, the Fetch standard).
    return new Request(url, { method, headers, body, ...(body === null ? {} : { duplex: 'half' }) } as RequestInit);
  } catch {
    return null;
  }
}

/** A body for the platform's request, and how to let the rest of it go. */
interface Coming {
  readonly init: BodyInit | null;
  drop(): void;
}

/** The bytes as they come; or what a parser before has made of JSON, as JSON again. */
function bodyOf(incoming: NodeRequest): Coming {
  const { method = 'GET', body, readableEnded } = incoming;
  if (method === 'GET' || method === 'HEAD') return { init: null, drop: () => void incoming.resume() };
  if (readableEnded && body !== undefined) {
    return { init: typeof body === 'string' ? body : JSON.stringify(body), drop: () => {} };
  }
  let isOpen = true;
  let dropped = 0;
  const close = (does: () => void) => () => {
    if (isOpen) does();
    isOpen = false;
  };
  const init = new ReadableStream<Uint8Array>({
    start(controller) {
      incoming.on('data', (chunk: Uint8Array) => {
        if (isOpen) {
          controller.enqueue(chunk);
          if ((controller.desiredSize ?? 0) <= 0) incoming.pause();
          return;
        }
        dropped += chunk.length;
        if (dropped > LINGER) incoming.destroy();
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
    cancel: close(() => void incoming.pause()),
  });
  const drop = () => {
    isOpen = false;
    incoming.resume();
  };
  return { init, drop };
}

async function send(response: Response, outgoing: NodeResponse): Promise<void> {
  if (outgoing.destroyed) return;
  const bytes = new Uint8Array(await response.arrayBuffer());
  outgoing.statusCode = response.status;
  for (const [name, value] of response.headers) outgoing.setHeader(name, value);
  const cookies = response.headers.getSetCookie();
  if (cookies.length > 0) outgoing.setHeader('set-cookie', cookies);
  outgoing.end(bytes);
}
