import Negotiator from 'negotiator';
import type { AnyRuleset } from '../../core/declare/index.js';
import { validator } from '../../core/meaning/index.js';
import { ProblemError, problems } from '../../core/messages/index.js';
import type { LookUps, Row, Violation } from '../../core/model/index.js';
import type { Handle } from '../connections/index.js';
import { lookUpsOf, uncheckedRecord } from '../stored-look-ups.js';
import { violationsFrom } from '../violations.js';
import type { Body } from './body.js';
import { type LogEntry, logEntry } from './log.js';
import { conflict, headersOf, invalid, type Problem, problem, problemResponse } from './problem.js';
import { type Received, type ReceiveOptions, receive, type ServerRules } from './receive.js';

/** What a request came with, beside its body. */
export interface About<C> {
  readonly request: Request;
  /** What the framework hands on: its own context, or nothing. */
  readonly context: C;
}

/** What a page is made from that shows again what was sent. */
export interface Refused<C> extends About<C> {
  readonly problem: Problem;
  /** What was sent by form, by the names of controls; null where nothing could be read, or JSON was sent. */
  readonly entries: { readonly [name: string]: unknown } | null;
  readonly violations: readonly Violation[];
}

export interface EndpointOptions<T, C> extends Pick<ReceiveOptions, 'limits' | 'clock' | 'shown' | 'lookUps'> {
  /** The compiled module of the ruleset; without it the rules are judged in process. */
  readonly rules?: ServerRules<T>;
  /**
   * Stores a checked record and answers; or gives what the database refused, as `write` and `insertRecord` do. A
   * driver's error that is thrown becomes its violations too.
   */
  save(
    value: T,
    about: About<C>,
  ): Promise<Response | { readonly ok: false; readonly violations: readonly Violation[] }>;
  /** For a partial update: the stored record in canonical form; null where there is none. */
  existing?(about: About<C>): Promise<object | null>;
  /**
   * Hands an open connection to some work. With it a record that is refused is asked of the stored ones as well, so that
   * one answer names everything: a taken value beside a missing one.
   */
  store?<R>(work: (handle: Handle) => Promise<R>): Promise<R>;
  /** Of a change, the key of the stored record: it is no duplicate of itself. */
  key?(about: About<C>): string | number | null;
  /** A page of HTML with what was sent and what is wrong, for browsers that post a form themselves. */
  page?(refused: Refused<C>): string | Promise<string>;
  /** Messages in the language of a request, by rule, as `messagesIn` gives them. */
  messages?(about: About<C>): { readonly [rule: string]: string } | undefined;
  /** Called once a request. What it gets holds no secret. */
  log?(entry: LogEntry): void;
  /** The rulesets of the same database. */
  readonly rulesets?: readonly AnyRuleset[];
}

export type Endpoint<C> = (request: Request, context: C) => Promise<Response>;

/**
 * Takes requests that bring one record: each is answered, whatever it brings. What is wrong with it is a problem document
 * (RFC 9457) with all violations, or the page, for whoever asks for HTML.
 *
 * @throws ProblemError `look_up_missing` where a rule asks a function that is not among `lookUps`, `look_up_unknown` for
 *   a function that no rule asks
 */
export function endpoint<T = unknown, C = unknown>(ruleset: AnyRuleset, options: EndpointOptions<T, C>): Endpoint<C> {
  assertLookUps(ruleset, options.lookUps ?? {});
  const rules = options.rules ?? (validator(ruleset) as unknown as ServerRules<T>);
  return async (request, context) => {
    const about = { request, context };
    let body: Body | null = null;
    let told: Problem | null = null;
    let fault: unknown = null;
    const refuse = (refused: Problem): Promise<Response> => {
      told = refused;
      return answer(refused, body, about, options.page);
    };
    const respond = async (): Promise<Response> => {
      const existing = await options.existing?.(about);
      if (existing === null) return refuse(problem('not_found'));
      const { limits, clock, shown, lookUps } = options;
      const messages = options.messages?.(about);
      const how = { limits, clock, shown, existing, messages, lookUps };
      const received = await receive(request, rules, how);
      body = received.body;
      if (!received.ok) return refuse(await withLookUps(received, ruleset, options, about, messages, existing));
      const saved = await save(received.value, ruleset, options, about, messages);
      return saved instanceof Response ? saved : refuse(refusalOf(saved.violations, ruleset));
    };
    const response = await respond().catch((error: unknown) => {
      fault = error;
      return refuse(problem('fault')).catch(() => problemResponse(problem('fault')));
    });
    options.log?.(logEntry(ruleset, request, response.status, told, body, fault));
    return response;
  };
}

/** Every rule that asks someone else has its function, and there are no others. */
function assertLookUps({ model }: AnyRuleset, given: LookUps): void {
  const asked = model.constraints.flatMap(({ predicate }) => (predicate.op === 'asks' ? [predicate.name] : []));
  const missing = asked.filter((name) => typeof given[name] !== 'function');
  const unknown = Object.keys(given).find((name) => !asked.includes(name));
  if (missing.length > 0)
    throw new ProblemError([problems.lookUpMissing(model.place, model.ruleset, missing.join(', '))]);
  if (unknown !== undefined)
    throw new ProblemError([problems.lookUpUnknown(model.place, model.ruleset, unknown, asked.join(', '))]);
}

async function save<T, C>(
  value: T,
  ruleset: AnyRuleset,
  { save: own, rulesets }: EndpointOptions<T, C>,
  about: About<C>,
  messages: { readonly [rule: string]: string } | undefined,
): Promise<Response | { readonly violations: readonly Violation[] }> {
  try {
    return await own(value, about);
  } catch (error) {
    return { violations: violationsFrom(error, ruleset, { record: value as Row, rulesets, messages }) };
  }
}

/** A refusal with what the stored records say of the fields that are right. */
async function withLookUps<T, C>(
  { problem: told, body }: Extract<Received<T>, { ok: false }>,
  ruleset: AnyRuleset,
  { store, key, rulesets }: EndpointOptions<T, C>,
  about: About<C>,
  messages: { readonly [rule: string]: string } | undefined,
  existing: object | undefined,
): Promise<Problem> {
  const { violations, more } = told;
  // Who sent so many faults is not helped by what is taken besides.
  if (store === undefined || body === null || violations === undefined || more !== undefined) return told;
  const record = uncheckedRecord(ruleset, body, existing);
  if (record === null) return told;
  const found = await store((handle) =>
    lookUpsOf(handle, ruleset, record, violations, { rulesets, messages, key: key?.(about) }),
  );
  return found.length === violations.length ? told : invalid(found);
}

/** What can't go as others refer to it is in conflict with them; anything else is wrong in itself. */
function refusalOf(violations: readonly Violation[], { name }: AnyRuleset): Problem {
  return violations.some(({ rule }) => rule === `${name}.inUse`) ? conflict(violations) : invalid(violations);
}

/** A page for whoever would rather have HTML than a problem document. */
async function answer<C>(
  told: Problem,
  body: Body | null,
  about: About<C>,
  page: EndpointOptions<unknown, C>['page'],
): Promise<Response> {
  if (page === undefined || !wantsHtml(about.request)) return problemResponse(told);
  const entries = body?.wire === 'form' ? body.input : null;
  const html = await page({ ...about, problem: told, entries, violations: told.violations ?? [] });
  return new Response(html, { status: told.status, headers: headersOf(told, 'text/html; charset=utf-8') });
}

/** True where a request asks for HTML before any JSON (RFC 9110, section 12.5.1). */
export function wantsHtml({ headers }: Request): boolean {
  const accept = headers.get('accept') ?? '*/*';
  const types = ['application/problem+json', 'application/json', 'text/html'];
  return new Negotiator({ headers: { accept } }).mediaType(types) === 'text/html';
}
