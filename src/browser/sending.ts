import type { Violation } from './types.js';

/**
 * What a server's answer says is wrong: the list of its problem document (RFC 9457), or its words where it lists nothing;
 * undefined where the answer is a success.
 */
export async function violationsIn(response: Response): Promise<readonly Violation[] | undefined> {
  if (response.ok) return undefined;
  const problem = await response.json().catch(() => ({}));
  if (Array.isArray(problem.violations) && problem.violations.length > 0) return problem.violations;
  const message = problem.detail ?? problem.title ?? `${response.status} ${response.statusText}`;
  return [{ pointer: '', rule: '', message }];
}
