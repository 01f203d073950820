import type { KnownField } from '../../core/kinds/index.js';
import { isSent } from '../../core/model/index.js';
import { isInDocument } from '../../core/targets/index.js';

type Fields = { readonly [name: string]: KnownField };
type Given = { readonly [name: string]: unknown };

/** A record as a document: what is absent is left out. What is not declared, or of another type, goes as it is. */
export function documentOf(fields: Fields, record: Given): Given {
  const entries = Object.entries(record).flatMap(([name, value]) => {
    const field = Object.hasOwn(fields, name) ? fields[name] : undefined;
    if (field !== undefined && !isInDocument(field)) return [];
    const inner = field === undefined ? value : written(field, value);
    const isAbsent = value === null || value === undefined || (field?.optional === true && isBlank(inner));
    return isAbsent ? [] : [[name, inner] as const];
  });
  return Object.fromEntries(entries);
}

/** A record with nothing in it, however deep. */
function isBlank(value: unknown): boolean {
  return (
    isPlain(value) && Object.values(value).every((one) => isBlank(one) || (Array.isArray(one) && one.length === 0))
  );
}

function written({ fields, item }: KnownField, value: unknown): unknown {
  if (fields !== null && isPlain(value)) return documentOf(fields, value);
  return item !== null && Array.isArray(value) ? value.map((one) => written(item, one)) : value;
}

/**
 * What is read again of the fields that somebody sends; what was absent, is.
 *
 * @param sent what was written, for those that are in no document
 */
export function readAgain(fields: Fields, document: Given, sent: Given = {}): Given {
  const own = Object.values(fields).filter((field) => isSent(field) && field.enforcedIn.includes('server'));
  return Object.fromEntries(
    own.map((field) => {
      if (!isInDocument(field)) return [field.name, sent[field.name] ?? null];
      const value = Object.hasOwn(document, field.name) ? document[field.name] : undefined;
      return [field.name, readValue(field, value)];
    }),
  );
}

function readValue({ fields, item, optional }: KnownField, value: unknown): unknown {
  if (fields !== null && !optional && value === undefined) return readAgain(fields, {});
  if (value === undefined) return item === null ? null : [];
  if (fields !== null && isPlain(value)) return readAgain(fields, value);
  return item !== null && Array.isArray(value) ? value.map((one) => readValue(item, one)) : value;
}

/** True for a JSON object. */
export function isPlain(value: unknown): value is Given {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
