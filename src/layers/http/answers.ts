import { encode, read } from '../../core/meaning/index.js';
import { type Answer, type Blame, type Model, pointerToPath, type Row, type Value } from '../../core/model/index.js';
import { type HttpAnswer, type HttpOptions, usual } from './options.js';
import type { Sent } from './sender.js';

/** What an answer says of a record: it is taken, refused, or the layer broke down. */
export type Said =
  | { readonly taken: HttpAnswer }
  | Extract<Answer, { readonly refused: unknown } | { readonly breakdown: string }>;

/** Reads an answer. A form is often answered by leading on to another page: that is a success. */
export function answerIn(sent: Sent, options: HttpOptions): Said {
  if ('unanswered' in sent) return { breakdown: sent.unanswered };
  const { status } = sent;
  if ((status >= 200 && status < 300) || status === 302 || status === 303) return { taken: sent };
  if (!(options.refusals ?? usual.refusals).includes(status)) return { breakdown: `answers ${status}${titleOf(sent)}` };
  return { refused: blames(sent, options) };
}

function titleOf({ body }: HttpAnswer): string {
  const title = at(body, '/title');
  return typeof title === 'string' ? `: ${title}` : '';
}

const ours = { faults: '/violations', field: '/pointer', rule: '/rule', message: '/message' };

/** The faults that a refusal tells. Where it tells none, it blames nobody in particular. */
function blames(answer: HttpAnswer, { faults = ours }: HttpOptions): readonly Blame[] {
  if (typeof faults === 'function') {
    const told = faults(answer);
    const list = 'refused' in told ? told.refused : [];
    return list.map(({ field, rule, message }) => blame(field, rule, message));
  }
  const list = at(answer.body, faults.faults);
  if (!Array.isArray(list)) return [{ pointer: null, rule: null, message: titleOf(answer).replace(/^: /, '') }];
  return list.map((fault) => {
    const part = (pointer: string | undefined) => (pointer === undefined ? undefined : at(fault, pointer));
    return blame(String(at(fault, faults.field) ?? ''), part(faults.rule), part(faults.message));
  });
}

function blame(field: string, rule: unknown, message: unknown): Blame {
  // A pointer may be written as the fragment of an address (RFC 6901, section 6).
  const pointer = field.startsWith('#') ? decodeURIComponent(field.slice(1)) : field;
  return {
    pointer: pointer === '' || pointer.startsWith('/') ? pointer : pointerToPath(pointer),
    rule: typeof rule === 'string' ? rule : null,
    message: typeof message === 'string' ? message : '',
  };
}

/** The value at a JSON Pointer (RFC 6901); undefined where there is none. */
export function at(document: unknown, pointer: string): unknown {
  const steps = pointer
    .split('/')
    .slice(1)
    .map((step) => step.replaceAll('~1', '/').replaceAll('~0', '~'));
  return steps.reduce<unknown>((inner, step) => {
    const isHolder = typeof inner === 'object' && inner !== null && Object.hasOwn(inner, step);
    return isHolder ? (inner as { readonly [name: string]: unknown })[step] : undefined;
  }, document);
}

/**
 * A record as an answer holds it: canonical values where it writes them as JSON carries them, and what it writes
 * otherwise as it is; null where it holds no field of the ruleset at all.
 */
export function recordIn(body: unknown, model: Model): Row | null {
  if (typeof body !== 'object' || body === null || Array.isArray(body)) return null;
  const given = body as { readonly [name: string]: unknown };
  const names = Object.keys(model.fields).filter((name) => Object.hasOwn(given, name));
  if (names.length === 0) return null;
  const own = Object.fromEntries(names.map((name) => [name, given[name]]));
  const row = read(model, own, 'json');
  const written: { readonly [name: string]: unknown } = encode(model, row, 'json');
  return Object.fromEntries(
    names.map((name): [string, Value] => {
      const isSame = JSON.stringify(own[name] ?? null) === JSON.stringify(written[name] ?? null);
      return [name, isSame ? (row[name] ?? null) : ((own[name] ?? null) as Value)];
    }),
  );
}
