import type { Place } from '../model/index.js';

/** Something a developer can mend: a stable code, the place, what is wrong, what was expected, and the fix. */
export interface Problem {
  readonly code: string;
  readonly place: Place | null;
  readonly message: string;
  readonly mend: string;
}

/** Carries one or more problems out of a call. Its stack is of no use to who reads it; the places are. */
export class ProblemError extends Error {
  readonly problems: readonly Problem[];

  constructor(problems: readonly Problem[]) {
    super(problems.map(describe).join('\n'));
    this.name = 'ProblemError';
    this.problems = problems;
  }
}

/**
 * The problems that an error carries, or null for any other error. By shape, not by class: a project's declarations
 * may have been loaded with another copy of the library.
 */
export function problemsOf(error: unknown): readonly Problem[] | null {
  const carries = error instanceof Error && error.name === 'ProblemError' && 'problems' in error;
  return carries ? (error.problems as readonly Problem[]) : null;
}

function describe({ code, place, message, mend }: Problem): string {
  const where = place === null || place.line === 0 ? '' : `${place.file}:${place.line}: `;
  return `${where}${message} ${mend} [${code}]`;
}
