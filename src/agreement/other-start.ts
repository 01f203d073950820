import type { Case } from '../core/model/index.js';
import type { Layer, Surroundings } from '../layers/layer.js';
import type { Difference } from './judge.js';
import { type Answered, askAll, type Progress } from './run.js';

/** A layer that does otherwise with so great a part of the records that are to be accepted refuses what they start from. */
const MOST = 0.5;

/** What is found by judging: enough to see whether a layer takes the record that cases start from. */
export interface Found {
  readonly answered: readonly Answered[];
  readonly differences: readonly Difference[];
}

/** The part of a layer's answers about new records of a ruleset, all to be accepted, that differ; null where there are none. */
function partRefused({ answered, differences }: Found, layer: string, ruleset: string): number | null {
  const isValid = (one: Case) => one.ruleset === ruleset && one.does === 'insert' && 'accepted' in one.expected;
  const valid = answered.filter(
    (one) => one.layer === layer && isValid(one.case) && !('notApplicable' in one.answer),
  ).length;
  const refused = differences.filter((one) => !one.known && one.layer === layer && isValid(one.case)).length;
  return valid === 0 ? null : refused / valid;
}

/** What the id of a case from the other start ends with. */
const OTHER = '/given';

/** How many cases were answered: those of the other start are the same cases, where some layer got the first ones. */
export function caseCount(answered: readonly Answered[]): number {
  const byRuleset = new Map<string, { readonly first: Set<string>; readonly other: Set<string> }>();
  for (const { case: one } of answered) {
    const ids = byRuleset.get(one.ruleset) ?? { first: new Set(), other: new Set() };
    byRuleset.set(one.ruleset, ids);
    (one.id.endsWith(OTHER) ? ids.other : ids.first).add(one.id);
  }
  return [...byRuleset.values()].reduce((sum, { first, other }) => sum + (first.size > 0 ? first : other).size, 0);
}

/**
 * Asks layers that refuse the record that cases start from with cases that start from another: what is wrong with the first
 * hides every other mistake. The answers take the place of the first ones where more of them are right.
 *
 * @param judge what differs of some answers
 * @param others the same cases from another start
 */
export async function withOtherStart(
  first: readonly Answered[],
  layers: { readonly [name: string]: Layer },
  surroundings: Surroundings,
  judge: (answered: readonly Answered[]) => Found,
  others: () => readonly Case[],
  progress: Progress,
  stop: AbortSignal | null,
): Promise<readonly Answered[]> {
  const found = judge(first);
  const rulesets = [...new Set(first.map(({ case: one }) => one.ruleset))];
  let answered = first;
  let cases: readonly Case[] | null = null;
  for (const [name, layer] of Object.entries(layers)) {
    for (const ruleset of rulesets) {
      const before = partRefused(found, name, ruleset) ?? 0;
      if (before <= MOST) continue;
      cases ??= others().map((one) => ({ ...one, id: `${one.id}${OTHER}` }));
      const own = cases.filter((one) => one.ruleset === ruleset);
      const again = await askAll(own, { [name]: layer }, surroundings, progress, stop);
      if ((partRefused(judge(again), name, ruleset) ?? 1) >= before) continue;
      answered = [...answered.filter((one) => one.layer !== name || one.case.ruleset !== ruleset), ...again];
    }
  }
  return answered;
}
