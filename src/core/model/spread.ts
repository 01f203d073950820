/** So many of a list, as far apart as there are more. */
export function spread<T>(list: readonly T[], most: number): readonly T[] {
  const step = Math.max(list.length / most, 1);
  return Array.from({ length: Math.min(list.length, most) }, (_, at) => list[Math.floor(at * step)] as T);
}
