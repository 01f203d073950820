import { type Problem, problem } from './problem.js';

/** Bytes as text, where they are UTF-8. */
export function textOf(bytes: Uint8Array): string | Problem {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return problem('malformed', 'UTF-8');
  }
}
