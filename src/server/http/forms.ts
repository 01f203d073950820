import { type Problem, problem } from './problem.js';
import { textOf } from './text.js';

/** What a form sent, by name: a text, or all where a name came several times. */
export type Entries = { readonly [name: string]: unknown };
type Read = { readonly input: Entries } | Problem;

/** Reads `application/x-www-form-urlencoded` (the URL standard's): bytes that are no UTF-8 become U+FFFD, which no text may hold. */
export function readUrlEncoded(bytes: Uint8Array, most: number): Read {
  const text = textOf(bytes);
  if (typeof text !== 'string') return text;
  if (count(bytes, '&', most) >= most) return problem('too_large', `${most} entries`);
  return { input: entriesFrom(new URLSearchParams(text)) };
}

/** Reads `multipart/form-data` (RFC 7578). A file comes as the platform's `File`: no field of ours takes one. */
export async function readMultipart(bytes: Uint8Array, contentType: string, most: number): Promise<Read> {
  if (count(bytes, '\n--', most) > most) return problem('too_large', `${most} entries`);
  try {
    const body = new Response(bytes as BodyInit, { headers: { 'content-type': contentType } });
    return { input: entriesFrom(await body.formData()) };
  } catch {
    return problem('malformed', 'a form in parts (multipart/form-data, RFC 7578) with its boundary in Content-Type');
  }
}

/** Names may be `__proto__` or `constructor`: they are keys like any other. */
function entriesFrom(pairs: Iterable<readonly [string, unknown]>): Entries {
  const entries = new Map<string, unknown[]>();
  for (const [name, value] of pairs) {
    const before = entries.get(name);
    if (before === undefined) entries.set(name, [value]);
    else before.push(value);
  }
  return Object.fromEntries([...entries].map(([name, values]) => [name, values.length === 1 ? values[0] : values]));
}

/** How often a text of ASCII stands in bytes, counted no further than one past `most`. */
function count(bytes: Uint8Array, text: string, most: number): number {
  const codes = [...text].map((one) => one.charCodeAt(0));
  const [first = 0, ...rest] = codes;
  let found = 0;
  for (let at = bytes.indexOf(first); at !== -1 && found <= most; at = bytes.indexOf(first, at + 1)) {
    if (rest.every((code, behind) => bytes[at + 1 + behind] === code)) found += 1;
  }
  return found;
}
