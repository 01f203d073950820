import type { Path } from './value.js';

/** The JSON Pointer (RFC 6901) of a key in a record. */
export function pointerToKey(key: string): string {
  if (!key.includes('~') && !key.includes('/')) return `/${key}`;
  return `/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`;
}

/** Which item of each list is meant, by the list's path. */
export type Indices = ReadonlyMap<Path, number>;
/** No item of any list. */
export function noIndices(): Indices {
  return NO_INDICES;
}

const NO_INDICES: Indices = new Map<Path, number>([]);

/**
 * The JSON Pointer of a field by its path; '' points at the record itself. A list's item takes its index from
 * `indices`; where that has none, RFC 6901's `-` stands for it.
 */
export function pointerToPath(path: Path, indices: Indices = noIndices()): string {
  if (path === '') return '';
  if (!path.includes('.') && !path.includes('[')) return `/${path}`;
  let pointer = '';
  let walked = '';
  for (const step of path.split('.')) {
    const name = step.replaceAll('[]', '');
    // A field's name has nothing to escape.
    pointer += `/${name}`;
    walked = walked === '' ? name : `${walked}.${name}`;
    for (let depth = name.length; depth < step.length; depth += 2) {
      pointer += `/${indices.get(walked) ?? '-'}`;
      walked += '[]';
    }
  }
  return pointer;
}

/** The lists that a path leads through, outermost first: `a[].b[]` leads through `a` and `a[].b`. */
export function listsOf(path: Path): readonly Path[] {
  if (!path.includes('[')) return [];
  return [...path.matchAll(/\[\]/g)].map((found) => path.slice(0, found.index));
}

/** The name that a form sends a field under, `shelf[bay]`; of what is in a list, at an index: `helpers[0]`. */
export function formName(path: Path, index = 0): string {
  if (!path.includes('.') && !path.includes('[')) return path;
  const [first = '', ...rest] = path.replaceAll('[]', `.${index}`).split('.');
  return `${first}${rest.map((step) => `[${step}]`).join('')}`;
}
