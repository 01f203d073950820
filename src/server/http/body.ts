import { parse } from 'content-type';
import { bytesOf, isProblem, type Limits, usualLimits } from './bytes.js';
import { readMultipart, readUrlEncoded } from './forms.js';
import { readJson } from './json.js';
import { type Problem, problem } from './problem.js';

/** A body by its wire. */
export type Body =
  | { readonly wire: 'json'; readonly input: unknown }
  | { readonly wire: 'form'; readonly input: { readonly [name: string]: unknown } };

type Reader = (
  bytes: Uint8Array,
  contentType: string,
  limits: Required<Limits>,
) => { readonly input: unknown } | Problem | Promise<{ readonly input: unknown } | Problem>;

const json: Reader = (bytes, _type, { depth }) => readJson(bytes, depth);

/** Who reads what. A merge patch (RFC 7396) says what a partial update does: null clears, a missing key is left. */
const readers: { readonly [type: string]: { readonly wire: Body['wire']; readonly read: Reader } } = {
  'application/json': { wire: 'json', read: json },
  'application/merge-patch+json': { wire: 'json', read: json },
  'application/x-www-form-urlencoded': {
    wire: 'form',
    read: (bytes, _type, { entries }) => readUrlEncoded(bytes, entries),
  },
  'multipart/form-data': { wire: 'form', read: (bytes, type, { entries }) => readMultipart(bytes, type, entries) },
};

/** Charsets whose bytes UTF-8 reads the same. */
const charsets = ['', 'utf-8', 'utf8', 'us-ascii'];

/**
 * Reads the body of a request: JSON, or a form in either encoding.
 *
 * @returns the wire and what came over it, or the problem to answer with: 415, 413 or 400
 */
export async function readBody(request: Request, limits: Limits = {}): Promise<Body | Problem> {
  const all = { ...usualLimits, ...limits };
  const header = request.headers.get('content-type') ?? '';
  const { type, charset } = mediaTypeOf(header);
  const reader = Object.hasOwn(readers, type) ? readers[type] : undefined;
  if (reader === undefined) return problem('media_type', type === '' ? 'without a type' : type);
  if (!charsets.includes(charset)) return problem('charset', charset);
  const coding = request.headers.get('content-encoding')?.toLowerCase() ?? 'identity';
  if (coding !== 'identity') return problem('content_coding', coding);
  const bytes = await bytesOf(request, all.bytes);
  if (isProblem(bytes)) return bytes;
  const read = await reader.read(bytes, header, all);
  return isProblem(read) ? read : ({ wire: reader.wire, input: read.input } as Body);
}

/** Both in lower case; '' for what is not there or no media type. */
function mediaTypeOf(header: string): { readonly type: string; readonly charset: string } {
  try {
    const { type, parameters } = parse(header);
    return { type: type.toLowerCase(), charset: (parameters.charset ?? '').toLowerCase() };
  } catch {
    return { type: '', charset: '' };
  }
}
