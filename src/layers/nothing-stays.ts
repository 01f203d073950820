import { ProblemError, problems } from '../core/messages/index.js';
import type { Case } from '../core/model/index.js';
import type { TableEngine } from './tables.js';

/**
 * Gives an engine that has tables without transactions one case of each kind, and counts the rows of those tables before
 * and after: what one case leaves behind, all others would as well.
 *
 * @param answers gives cases to the engine, and undoes them
 * @throws ProblemError `layer_unfit` where a row stays
 */
export async function assertNothingStays(
  engine: TableEngine,
  cases: readonly Case[],
  answers: (group: readonly Case[]) => AsyncIterable<unknown>,
): Promise<void> {
  const before = await engine.beyondRollback();
  if (before.size === 0) return;
  for (const one of firstOfEach(cases)) {
    for await (const _ of answers([one]));
    const after = await engine.beyondRollback();
    const changed = [...after].find(([table, count]) => count !== before.get(table));
    if (changed === undefined) continue;
    const [table, count] = changed;
    const more = count - (before.get(table) ?? 0);
    const why = `after one case of ${one.ruleset} that was undone, ${table} has ${Math.abs(more)} ${more > 0 ? 'more' : 'fewer'} rows, which no rollback undoes; no other case was tried`;
    throw new ProblemError([problems.layerUnfit(null, engine.name, why)]);
  }
}

/** The first case of each ruleset and operation that is to be accepted. */
function firstOfEach(cases: readonly Case[]): readonly Case[] {
  const first = new Map<string, Case>();
  for (const one of cases) {
    const key = `${one.ruleset} ${one.does}`;
    if ('accepted' in one.expected && !first.has(key)) first.set(key, one);
  }
  return [...first.values()];
}
