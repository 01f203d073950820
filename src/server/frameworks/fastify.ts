import { answering, type NodeRequest, type NodeResponse } from './node.js';

/** What is asked of an instance of Fastify. */
interface Instance {
  removeAllContentTypeParsers(): void;
  addContentTypeParser(
    type: string,
    parser: (request: unknown, payload: unknown, done: (error: null) => void) => void,
  ): void;
}

/** What is asked of Fastify's own request and reply. */
interface RawRequest {
  readonly raw: NodeRequest;
}
interface RawReply {
  readonly raw: NodeResponse;
  hijack(): unknown;
}

/** Lets every body through unread, in the scope of the instance: our handlers read them. */
export function passBodies(instance: Instance): void {
  instance.removeAllContentTypeParsers();
  instance.addContentTypeParser('*', (_request, _payload, done) => done(null));
}

/** A handler for Fastify: `app.post('/firings', fastifyHandler(save))`. The context is Fastify's own request. */
export function fastifyHandler<Q extends RawRequest>(
  handler: (request: Request, context: Q) => Promise<Response>,
): (request: Q, reply: RawReply) => Promise<void> {
  return (request, reply) => {
    // The answer goes to Node's own response.
    reply.hijack();
    return answering((web) => handler(web, request), request.raw, reply.raw);
  };
}
