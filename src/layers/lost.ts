import { ProblemError, problems } from '../core/messages/index.js';

/** Codes of a connection that is no more: PostgreSQL's classes 08 and 57P, those of the drivers, and of the system. */
const GONE =
  /^(?:08[0-9A-Z]{3}|57P0[0-9]|PROTOCOL_CONNECTION_LOST|ECONNRESET|EPIPE|ECONNREFUSED|ER_CONNECTION_KILLED)$/;
const WORDS = /connection (?:terminated|is closed|lost|was killed)|closed state|not queryable/i;

/** A statement that lasted longer than the server lets it: PostgreSQL's query_canceled, and MariaDB's of max_statement_time. */
const ENDED = /^(?:57014|ER_STATEMENT_TIMEOUT)$/;

/** The same error; where it says that the connection to an engine is lost, or that the server ends statements, a problem. */
export function lost(error: unknown, engine: string): unknown {
  if (typeof error !== 'object' || error === null || error instanceof ProblemError) return error;
  const { code, message } = error as { readonly code?: unknown; readonly message?: unknown };
  if (typeof code === 'string' && ENDED.test(code)) {
    const why = `the server ended a statement that took too long (${message}); everything was undone`;
    return new ProblemError([problems.layerUnreachable(null, engine, why)]);
  }
  const isGone = (typeof code === 'string' && GONE.test(code)) || WORDS.test(String(message));
  if (!isGone) return error;
  const why = `the connection was lost (${message}); its transaction went with it, so that nothing is left behind`;
  return new ProblemError([problems.layerUnreachable(null, engine, why)]);
}
