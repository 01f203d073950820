import { type Problem, problem } from './problem.js';

/** What protects a server: more is refused before it is read. */
export interface Limits {
  /** Bytes of a body; 1,000,000 unless told. */
  readonly bytes?: number;
  /** How deep JSON may be nested; 64 unless told. */
  readonly depth?: number;
  /** Entries of a form; 10,000 unless told. */
  readonly entries?: number;
}
/** What is taken unless told otherwise. */
export const usualLimits = { bytes: 1_000_000, depth: 64, entries: 10_000 } satisfies Required<Limits>;

/** The whole body, or the problem that it is too large: then no more of it is read. */
export async function bytesOf(request: Request, most: number): Promise<Uint8Array | Problem> {
  const tooLarge = problem('too_large', `${most} bytes`);
  if (Number(request.headers.get('content-length') ?? 0) > most) return tooLarge;
  const reader = request.body?.getReader();
  if (reader === undefined) return new Uint8Array();
  const chunks: Uint8Array[] = [];
  let length = 0;
  for (let read = await reader.read(); !read.done; read = await reader.read()) {
    length += read.value.length;
    if (length > most) {
      await reader.cancel().catch(() => {});
      return tooLarge;
    }
    chunks.push(read.value);
  }
  const bytes = new Uint8Array(length);
  let at = 0;
  for (const chunk of chunks) {
    bytes.set(chunk, at);
    at += chunk.length;
  }
  return bytes;
}

/** True where reading gave a problem and not what was read. */
export function isProblem(read: object): read is Problem {
  return 'status' in read && 'code' in read;
}
