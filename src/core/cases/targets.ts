import { type Row, valueAt } from '../model/index.js';
import type { Context, Stored } from './context.js';

/** The rows that the base refers to, and those that some records refer to beside: of each key one. */
export function withTargets({ before, schema, targets }: Context, rows: readonly Row[]): readonly Stored[] {
  const keyOf = ({ ruleset, row }: Stored) => {
    const key = schema.find((one) => one.ruleset === ruleset)?.key ?? null;
    return JSON.stringify([ruleset, key === null ? row : valueAt(row, key)]);
  };
  const all = [...before, ...rows.flatMap((row) => targets(row))];
  const first = new Map<string, Stored>();
  for (const one of all) if (!first.has(keyOf(one))) first.set(keyOf(one), one);
  return [...first.values()];
}
