import type { Violation } from '../../core/model/index.js';

/** A problem document (RFC 9457). `code` is stable; `violations` point at fields with RFC 6901 JSON Pointers. */
export interface Problem {
  readonly type: 'about:blank';
  readonly title: string;
  readonly status: number;
  readonly code: ProblemCode;
  readonly detail: string;
  readonly violations?: readonly Violation[];
  /** How many violations there are beside those, where there are too many to list. */
  readonly more?: number;
}

/** So many violations are listed in a document: an answer is not to be many times as large as what was sent. */
const MOST_VIOLATIONS = 200;

interface Entry {
  readonly status: number;
  readonly title: string;
  /** What was expected, and so how to mend it; `{what}` is filled in. */
  readonly detail: string;
}

/** Every problem that a request can have. */
const entries = {
  url: {
    status: 400,
    title: 'Bad Request',
    detail: 'The address, the method or a header of the request is not valid.',
  },
  media_type: {
    status: 415,
    title: 'Unsupported Media Type',
    detail:
      'Send application/json, application/x-www-form-urlencoded or multipart/form-data, named in Content-Type; not {what}.',
  },
  charset: { status: 415, title: 'Unsupported Media Type', detail: 'Send UTF-8, not {what}.' },
  content_coding: { status: 415, title: 'Unsupported Media Type', detail: 'Send the body as it is, not in {what}.' },
  too_large: { status: 413, title: 'Content Too Large', detail: 'Send at most {what}.' },
  malformed: { status: 400, title: 'Bad Request', detail: 'The body is not {what}.' },
  too_deep: { status: 400, title: 'Bad Request', detail: 'Nest arrays and objects at most {what} deep.' },
  not_found: { status: 404, title: 'Not Found', detail: 'There is no such record.' },
  invalid: { status: 422, title: 'Unprocessable Content', detail: '{what}' },
  conflict: { status: 409, title: 'Conflict', detail: '{what}' },
  fault: {
    status: 500,
    title: 'Internal Server Error',
    detail: 'The request could not be carried out. It is not the fault of what was sent.',
  },
} satisfies { readonly [code: string]: Entry };
export type ProblemCode = keyof typeof entries;
/** The same by any text, for the pages that are made of it. */
export const problemEntries: { readonly [code: string]: Entry } = entries;

/**
 * The problem document of a code, with its status and title.
 *
 * @param what fills the place that the code's words have for it: what was sent, or a limit
 */
export function problem(code: ProblemCode, what = '', violations?: readonly Violation[]): Problem {
  const { status, title, detail } = entries[code];
  const told = { type: 'about:blank', title, status, code, detail: detail.replace('{what}', () => what) } as const;
  return violations === undefined ? told : { ...told, violations };
}

/** The problem of a record that breaks rules. At most 200 violations are listed; `more` counts the others. */
export function invalid(violations: readonly Violation[]): Problem {
  return listing('invalid', violations);
}

/** The problem of a record that can't go, as others refer to it. */
export function conflict(violations: readonly Violation[]): Problem {
  return listing('conflict', violations);
}

function listing(code: ProblemCode, violations: readonly Violation[]): Problem {
  const listed = violations.slice(0, MOST_VIOLATIONS);
  const more = violations.length - listed.length;
  const words = listed.map(({ message }) => message);
  if (more === 0) return problem(code, words.join(' '), listed);
  return { ...problem(code, [...words, `There are ${more} more.`].join(' '), listed), more };
}

/** A problem as an answer, `application/problem+json`. */
export function problemResponse(told: Problem): Response {
  return new Response(JSON.stringify(told), {
    status: told.status,
    headers: headersOf(told, 'application/problem+json'),
  });
}

/** The headers of an answer that tells a problem. */
export function headersOf({ status }: Problem, type: string): { readonly [name: string]: string } {
  const accept = 'application/json, application/x-www-form-urlencoded, multipart/form-data';
  return {
    'content-type': type,
    'cache-control': 'no-store',
    vary: 'accept',
    ...(status === 415 ? { accept } : {}),
  };
}
