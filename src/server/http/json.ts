import { type Problem, problem } from './problem.js';
import { textOf } from './text.js';

/** What JSON says, or why it is none, or nested deeper than anybody reads. */
export function readJson(bytes: Uint8Array, deepest: number): { readonly input: unknown } | Problem {
  const text = textOf(bytes);
  if (typeof text !== 'string') return text;
  if (depthOf(text, deepest) > deepest) return problem('too_deep', String(deepest));
  try {
    return { input: JSON.parse(text) };
  } catch {
    return problem('malformed', 'JSON (RFC 8259)');
  }
}

/** How deep text that may be JSON is nested, counted no further than one past `most`. */
function depthOf(text: string, most: number): number {
  let [depth, deepest, isString] = [0, 0, false];
  for (let at = 0; at < text.length && deepest <= most; at += 1) {
    const unit = text.charCodeAt(at);
    if (isString) {
      if (unit === BACKSLASH) at += 1;
      else if (unit === QUOTE) isString = false;
    } else if (unit === QUOTE) isString = true;
    else if (unit === BRACE || unit === BRACKET) {
      depth += 1;
      deepest = Math.max(deepest, depth);
    } else if (unit === BRACE + 2 || unit === BRACKET + 2) depth -= 1;
  }
  return deepest;
}

const [QUOTE, BACKSLASH, BRACKET, BRACE] = [0x22, 0x5c, 0x5b, 0x7b];
