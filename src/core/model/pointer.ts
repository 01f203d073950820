import type { Path } from './value.js';

/** The JSON Pointer (RFC 6901) of a key in a record. */
export function pointerToKey(key: string): string {
  return `/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`;
}

/** The JSON Pointer of a field by its path; '' points at the record itself. */
export function pointerToPath(path: Path): string {
  return path === '' ? '' : path.split('.').map(pointerToKey).join('');
}
