/** A handler for Hono: `app.post('/firings', honoHandler(save))`. The context is Hono's own. */
export function honoHandler<C extends { readonly req: { readonly raw: Request } }>(
  handler: (request: Request, context: C) => Promise<Response>,
): (context: C) => Promise<Response> {
  return (context) => handler(context.req.raw, context);
}
