import type { LookUps, Violation } from '../../core/model/index.js';
import { inWords } from '../violations.js';
import { type Body, readBody } from './body.js';
import { isProblem, type Limits } from './bytes.js';
import { invalid, type Problem, problem } from './problem.js';

/** A compiled module, or a validator in process: `checkAsync` is asked where it is there. */
export interface ServerRules<T> {
  check(input: unknown, how: ServerHow): Checked<T>;
  checkAsync?(input: unknown, how: ServerHow): Promise<Checked<T>>;
}
type Checked<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly violations: readonly Violation[] };

/** How a server has a record checked. */
export interface ServerHow {
  readonly wire: Body['wire'];
  readonly on: 'server';
  readonly clock?: { readonly instant: string; readonly zone?: string };
  /** What the server asks, by the names of rules. */
  readonly lookUps?: LookUps;
}

export interface ReceiveOptions extends Pick<ServerHow, 'clock' | 'lookUps'> {
  /** Messages in another language, by rule, as `messagesIn` gives them. */
  readonly messages?: { readonly [rule: string]: string };
  readonly limits?: Limits;
  /** Of a partial update, the stored record in canonical form: a missing key is unchanged, null is cleared. */
  readonly existing?: object;
  /** Of a partial update by form, the paths of the fields that it showed: an unticked box sends nothing. */
  readonly shown?: readonly string[];
}

/** A checked record, or the problem to answer with; and what was sent, as far as it was read. */
export type Received<T> =
  | { readonly ok: true; readonly value: T; readonly body: Body }
  | { readonly ok: false; readonly problem: Problem; readonly body: Body | null };

/**
 * Reads the body of a request and checks it.
 *
 * @param rules the compiled module of a ruleset, or `validator(ruleset)`
 */
export async function receive<T>(
  request: Request,
  rules: ServerRules<T>,
  { limits, existing, shown, clock, messages, lookUps }: ReceiveOptions = {},
): Promise<Received<T>> {
  const body = await readBody(request, limits).catch(() => problem('malformed', 'complete'));
  if (isProblem(body)) return { ok: false, problem: body, body: null };
  const how = {
    wire: body.wire,
    on: 'server',
    ...(existing === undefined ? {} : { partial: true, existing }),
    ...(shown === undefined ? {} : { shown }),
    ...(clock === undefined ? {} : { clock }),
    ...(lookUps === undefined ? {} : { lookUps }),
  } as const;
  const checked = await (rules.checkAsync?.(body.input, how) ?? rules.check(body.input, how));
  return checked.ok
    ? { ok: true, value: checked.value, body }
    : { ok: false, problem: invalid(inWords(checked.violations, messages)), body };
}
