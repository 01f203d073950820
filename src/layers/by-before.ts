import type { Case } from '../core/model/index.js';

/** Cases with the same rows before them, together: those rows are stored once for all of them. */
export function byBefore(cases: readonly Case[]): readonly (readonly Case[])[] {
  const groups = new Map<string, Case[]>();
  for (const one of cases) {
    const key = JSON.stringify(one.before);
    const group = groups.get(key);
    if (group === undefined) groups.set(key, [one]);
    else group.push(one);
  }
  return [...groups.values()];
}
