import { answering, type NodeRequest, type NodeResponse } from './node.js';

/**
 * A handler for Express: `app.post('/firings', expressHandler(save))`. The context is Express's own request. It reads the
 * body itself: a parser before it may have read JSON, but no form.
 */
export function expressHandler<Q extends NodeRequest>(
  handler: (request: Request, context: Q) => Promise<Response>,
): (request: Q, response: NodeResponse, next: (error: unknown) => void) => void {
  return (request, response, next) => void answering(handler, request, response).catch(next);
}
