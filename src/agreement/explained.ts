import type { Schema } from '../core/declare/index.js';
import { type Case, pointerToPath } from '../core/model/index.js';
import type { Difference } from './judge.js';

/** What is reported of a value that the layer refuses wrongly in other records, beside what is wrong in this one. */
export function isEcho({ layer, stranger, case: one }: Difference, all: readonly Difference[]): boolean {
  if (stranger === null) return false;
  const valueIn = ({ input, wire }: Case) => {
    const record = input as { readonly [name: string]: unknown } | null;
    const name = stranger.pointer?.split('/')[1] ?? '';
    return JSON.stringify([wire, typeof record === 'object' ? record?.[name] : null]);
  };
  return all.some(
    (other) =>
      other.layer === layer &&
      !other.known &&
      other.case.ruleset === one.ruleset &&
      'accepted' in other.case.expected &&
      'refused' in other.observed &&
      other.observed.refused.some(
        ({ pointer, rule }) =>
          pointer === stranger.pointer &&
          (stranger.rule === null ? valueIn(other.case) === valueIn(one) : rule === stranger.rule),
      ),
  );
}

/** What a record with many faults shows once more, after records with one of them have shown it. */
export function isExplained(together: Difference, singles: readonly Difference[], schema: Schema): boolean {
  const own = singles.filter(({ layer }) => layer === together.layer);
  if (together.untold.length > 0) return together.untold.every((rule) => own.some((single) => single.rule === rule));
  const blamed = 'refused' in together.observed ? together.observed.refused.map(({ pointer }) => pointer) : [];
  return own.some(({ rule }) => blamed.includes(blameOf(rule, schema)));
}

function blameOf(rule: string, schema: Schema): string {
  const found = schema.flatMap(({ constraints }) => constraints).find(({ id }) => id === rule);
  return pointerToPath(found?.blame ?? '');
}
