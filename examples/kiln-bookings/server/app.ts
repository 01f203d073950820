import {
  type About,
  deleteRecord,
  endpoint,
  findRecord,
  type Handle,
  insertRecord,
  type LogEntry,
  listRecords,
  problem,
  problemResponse,
  type Refused,
  referenceOptions,
  updateRecord,
  wantsHtml,
} from 'echo-rule/server';
import { type Database, rulesets } from './database.ts';
import { type Assets, formPage, listPage, wordsPage } from './pages.ts';
import { type Part, parts } from './studio.ts';

/** Nothing but our own script and style: no inline one, no other host. */
const POLICY =
  "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self'; connect-src 'self'; form-action 'self'; " +
  "base-uri 'none'; frame-ancestors 'none'; require-trusted-types-for 'script'";

/** The studio as one function from a request to its answer. */
export function studio(
  database: Database,
  assets: Assets,
  log?: (entry: LogEntry) => void,
): (request: Request) => Promise<Response> {
  const routes = parts.map((part) => ({ part, answer: routesOf(part, database, assets, log) }));
  return async (request) => {
    const { pathname, host } = new URL(request.url);
    const origin = request.headers.get('origin');
    const isOurs = origin === null || (URL.canParse(origin) && new URL(origin).host === host);
    if (request.method !== 'GET' && !isOurs) return new Response('Only this site may change records.', { status: 403 });
    if (pathname === '/') return seeOther('/firings');
    const found = routes.find(({ part }) => pathname === part.path || pathname.startsWith(`${part.path}/`));
    const response =
      (await found?.answer(request, pathname.slice(found.part.path.length + 1))) ?? notFound(request, assets);
    response.headers.set('content-security-policy', POLICY);
    response.headers.set('x-content-type-options', 'nosniff');
    response.headers.set('referrer-policy', 'same-origin');
    return response;
  };
}

type Stored = { readonly [field: string]: unknown };
type Rest = (request: Request, rest: string) => Promise<Response | null>;

/** A list, a new record, a stored one to be changed, and its removal. */
function routesOf(part: Part, database: Database, assets: Assets, log?: (entry: LogEntry) => void): Rest {
  const { ruleset, rules, path } = part;
  const options = { rulesets };
  const form = async (
    key: string | null,
    state: Parameters<typeof formPage>[2]['state'],
    fault: string | null = null,
  ) =>
    formPage(assets, part, {
      key,
      state: { ...state, options: await database.use((handle) => referenceOptions(handle, ruleset, rulesets)) },
      problem: fault,
    });
  const again = ({ entries, violations, problem: told, context }: Refused<string | null>) =>
    form(context, { entries: entries ?? {}, violations }, violations.length === 0 ? told.detail : null);
  const shared = {
    rules,
    rulesets,
    page: again,
    store: <R>(work: (handle: Handle) => Promise<R>) => database.use(work),
    key: ({ context }: { readonly context: string | null }) => context,
    ...(log === undefined ? {} : { log }),
  };

  const create = endpoint<Stored, null>(ruleset, {
    ...shared,
    async save(value, { request }) {
      const written = await database.use((handle) => insertRecord(handle, ruleset, value, options));
      return written.ok ? stored(request, part, String(written.value[part.key]), written.value, 201) : written;
    },
  });
  const change = async (value: Stored, { request, context }: About<string>) => {
    const written = await database.use((handle) => updateRecord(handle, ruleset, context, value, options));
    if (written === null) return notFound(request, assets);
    return written.ok ? stored(request, part, String(written.value[part.key]), written.value, 200) : written;
  };
  const replace = endpoint<Stored, string>(ruleset, { ...shared, save: change });
  const patch = endpoint<Stored, string>(ruleset, {
    ...shared,
    existing: ({ context }) => database.use((handle) => findRecord(handle, ruleset, context, options)),
    save: change,
  });

  const list = async (request: Request) => {
    const [records, called] = await database.use(
      async (handle) =>
        [await listRecords(handle, ruleset, options), await referenceOptions(handle, ruleset, rulesets)] as const,
    );
    if (!wantsHtml(request)) return Response.json(records);
    const { searchParams } = new URL(request.url);
    const [saved, gone] = ['saved', 'deleted'].map((name) => searchParams.get(name));
    const done = saved ? `${saved} is saved.` : gone ? `${gone} is deleted.` : null;
    return page(listPage(assets, part, records, called, done));
  };
  const edit = async (request: Request, key: string) => {
    const record = await database.use((handle) => findRecord(handle, ruleset, key, options));
    if (record === null) return null;
    return wantsHtml(request) ? page(await form(key, { record })) : Response.json(record);
  };
  const remove = async (request: Request, key: string) => {
    const written = await database.use((handle) => deleteRecord(handle, ruleset, key, options));
    if (written === null) return null;
    if (written.ok)
      return wantsHtml(request)
        ? seeOther(`${path}?deleted=${encodeURIComponent(key)}`)
        : new Response(null, { status: 204 });
    const [{ message = '' } = {}] = written.violations;
    if (!wantsHtml(request)) return problemResponse(problem('conflict', message, written.violations));
    const record = await database.use((handle) => findRecord(handle, ruleset, key, options));
    return page(await form(key, { record }, `${key} can't be deleted. ${message}`), 409);
  };

  return async (request, rest) => {
    const [key = '', more, ...others] = rest.split('/').map(decoded);
    if (others.length > 0) return null;
    const { method } = request;
    if (key === '') return method === 'GET' ? list(request) : method === 'POST' ? create(request, null) : null;
    if (more === 'delete') return method === 'POST' ? remove(request, key) : null;
    if (more !== undefined) return null;
    if (key === 'new' && method === 'GET') return page(await form(null, {}));
    if (method === 'GET') return edit(request, key);
    if (method === 'DELETE') return remove(request, key);
    if (method === 'PATCH') return patch(request, key);
    return method === 'POST' || method === 'PUT' ? replace(request, key) : null;
  };
}

/** A step of an address; one that is no UTF-8 leads nowhere. */
function decoded(step: string): string {
  try {
    return decodeURIComponent(step);
  } catch {
    return '\0';
  }
}

/** A browser goes on to the list; a program gets the record, and where it is. */
function stored(request: Request, { path }: Part, key: string, record: object, status: number): Response {
  if (wantsHtml(request)) return seeOther(`${path}?saved=${encodeURIComponent(key)}`);
  return Response.json(record, { status, headers: { location: `${path}/${encodeURIComponent(key)}` } });
}

function page(text: string, status = 200): Response {
  return new Response(text, {
    status,
    headers: { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' },
  });
}

/** After a form was sent: going back and forth sends nothing again. */
function seeOther(location: string): Response {
  return new Response(null, { status: 303, headers: { location } });
}

function notFound(request: Request, assets: Assets): Response {
  if (!wantsHtml(request)) return problemResponse(problem('not_found'));
  return page(wordsPage(assets, 'Not here', 'There is no such page, or the record is gone.', '/firings'), 404);
}
