import { masked } from '../core/meaning/index.js';
import type { Model, Row, Value } from '../core/model/index.js';

/** A field that was stored otherwise, and how in words; '' for the record as a whole. */
export interface Altered {
  readonly field: string;
  readonly words: string;
  /** True for a text that was stored just as it was sent. */
  readonly asGiven: boolean;
}

/** What the stored record is compared with beside the canonical one. */
interface Compared {
  /** The record as it was sent; null where that is the canonical one. */
  readonly given?: unknown;
  /** True where null, or nothing, may be stored for an empty list. */
  readonly nullIsEmpty?: boolean;
}

/** The fields whose stored value is another than the canonical one, in words. */
export function alteredFields(
  model: Model,
  full: Row,
  kept: Row,
  { given = null, nullIsEmpty = false }: Compared = {},
): readonly Altered[] {
  // Of a secret only its presence is compared, and shown.
  const [expected, stored] = [masked(model, full) as Row, masked(model, kept) as Row];
  if (Object.keys(stored).length === 0)
    return [{ field: '', words: 'nothing, though it reports success', asGiven: false }];
  const sent = typeof given === 'object' && given !== null ? (given as { readonly [name: string]: unknown }) : {};
  const told = (path: string) => (Object.hasOwn(stored, path) ? stored[path] : undefined);
  const isEmptyList = (path: string) => Array.isArray(expected[path]) && expected[path].length === 0;
  return Object.keys(expected)
    .filter((path) => !(nullIsEmpty && isEmptyList(path) && (told(path) ?? null) === null))
    .filter((path) => JSON.stringify(inOrder(told(path) ?? null)) !== JSON.stringify(inOrder(expected[path] ?? null)))
    .map((path) => ({
      field: path,
      words: `${path} as ${visible(told(path))} instead of ${visible(expected[path])}`,
      asGiven: typeof told(path) === 'string' && told(path) === sent[path],
    }));
}

/** Records with their keys in one order: an engine that keeps JSON sorts them. */
function inOrder(value: Value): Value {
  if (Array.isArray(value)) return value.map(inOrder);
  if (typeof value !== 'object' || value === null) return value;
  const entries = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
  return Object.fromEntries(entries.map(([key, inner]) => [key, inOrder(inner)]));
}

/** A value with what can't be seen written as escapes. */
export function visible(value: unknown): string {
  if (value === undefined) return 'missing';
  const text = JSON.stringify(value);
  return text.replace(/[\ufffd\p{Cc}\p{Cf}\p{Zl}\p{Zp}\p{Surrogate}]|(?! )\p{Zs}/gu, (character) => {
    return `\\u${(character.codePointAt(0) ?? 0).toString(16).padStart(4, '0')}`;
  });
}
