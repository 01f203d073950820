import type { AnyRuleset } from '../../core/declare/index.js';
import { loggable, secretsIn } from '../../core/meaning/index.js';
import type { Body } from './body.js';
import type { Problem, ProblemCode } from './problem.js';

/** What is told of a request: no secret, no value of an undeclared key, no query. */
export interface LogEntry {
  readonly ruleset: string;
  readonly method: string;
  readonly path: string;
  readonly status: number;
  readonly code: ProblemCode | null;
  readonly violations: readonly { readonly pointer: string; readonly rule: string }[];
  readonly wire: Body['wire'] | null;
  readonly input: unknown;
  /** What went wrong on the server itself. */
  readonly error: { readonly name: string; readonly message: string; readonly stack: string } | null;
}

/** What a log is told of a request that has been answered; `fault` is what went wrong on the server, or null. */
export function logEntry(
  { name, model }: AnyRuleset,
  request: Request,
  status: number,
  problem: Problem | null,
  body: Body | null,
  fault: unknown,
): LogEntry {
  const secrets = secretsIn(model, body?.input);
  const shown = (text: string) => secrets.reduce((before, secret) => before.replaceAll(secret, '(secret)'), text);
  const error = fault instanceof Error ? fault : fault === null ? null : new Error(String(fault));
  return {
    ruleset: name,
    method: request.method,
    path: new URL(request.url).pathname,
    status,
    code: problem?.code ?? null,
    violations: (problem?.violations ?? []).map(({ pointer, rule }) => ({ pointer, rule })),
    wire: body?.wire ?? null,
    input: body === null ? null : loggable(model, body.input),
    error: error === null ? null : { name: error.name, message: shown(error.message), stack: shown(error.stack ?? '') },
  };
}
