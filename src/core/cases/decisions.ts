import { type Constraint, listsOf, type Predicate, type Row, valueAt } from '../model/index.js';
import { isLookup, mentions, type Truth } from '../operators/index.js';
import type { Wish } from '../reason/index.js';
import { applied, brokenRules, type Context, type Criterion, changed } from './context.js';
import { partsShown } from './parts.js';
import { combinations } from './rules.js';
import { comesTo, conditionsOf, truthsOf } from './sides.js';

/** A rule of more conditions than this is looked at in the combinations that are tried anyway. */
const MOST_CONDITIONS = 5;

/** Two records that differ in the truth of one condition, and in the rule's. */
export interface Pair {
  readonly condition: number;
  readonly holds: Row;
  readonly fails: Row;
}

/**
 * Each condition of a compound rule decides by itself (modified condition/decision coverage, MC/DC): two records in which
 * it alone is true in one and false in the other, and the rule kept in one and broken in the other.
 */
export const decisions: Criterion = (context) =>
  compoundRules(context).flatMap((rule) => [
    ...decidingPairs(context, rule).flatMap(({ condition, holds, fails }) => {
      const number = `condition ${condition + 1} of ${conditionsOf(rule.predicate).length}`;
      return [
        ...changed(context, holds, { constraint: rule.id, reason: `${number} is true, and decides` }),
        ...changed(context, fails, { constraint: rule.id, reason: `${number} is false, and decides` }),
      ];
    }),
    ...partsShown(context, rule),
  ]);

/** The named rules over plain fields that are built from several conditions. */
export function compoundRules({ model }: Context): readonly Constraint[] {
  return model.constraints.filter(({ facet, predicate, over, subjects }) => {
    const isPlain = over === null && subjects.every((path) => listsOf(path).length === 0);
    return !facet && isPlain && !isLookup(predicate) && conditionsOf(predicate).length > 1;
  });
}

/** A pair for each condition that can decide, as values of the rule's own fields. */
export function decidingPairs(context: Context, rule: Constraint): readonly Pair[] {
  const conditions = conditionsOf(rule.predicate);
  const tried = combinations(context, rule).flatMap((values) => {
    const row = applied(context.base, values);
    const truths = truthsOf(context.model, conditions, row);
    return brokenRules(context, row).every((id) => id === rule.id) ? [{ values, truths }] : [];
  });
  const byTruths = new Map(tried.reverse().map(({ values, truths }) => [truths.join(), values]));
  return conditions.flatMap((_, condition) => {
    for (const others of vectorsFor(conditions.length, condition)) {
      const [on, off] = [others(true), others(false)];
      const outcome = (truths: readonly Truth[]) => comesTo(rule.predicate, truths);
      if (outcome(on) === outcome(off) || outcome(on) === null || outcome(off) === null) continue;
      const holds = byTruths.get(on.join()) ?? workedOut(context, rule, conditions, on);
      const fails = holds === null ? null : (byTruths.get(off.join()) ?? workedOut(context, rule, conditions, off));
      if (holds !== null && fails !== null) return [{ condition, holds, fails }];
    }
    return [];
  });
}

/** Every truth of the other conditions, with that of one left open; without absent values first. */
function* vectorsFor(count: number, open: number): Iterable<(truth: boolean) => readonly Truth[]> {
  if (count > MOST_CONDITIONS) return;
  for (let bits = 0; bits < 2 ** count; bits += 1) {
    if ((bits >> open) & 1) continue;
    yield (truth) => Array.from({ length: count }, (_, at) => (at === open ? truth : ((bits >> at) & 1) === 1));
  }
}

/** The values of a rule's fields in a record that was worked out, as far as they fit a plausible one. */
function workedOut(
  context: Context,
  rule: Constraint,
  conditions: readonly Predicate[],
  truths: readonly Truth[],
): Row | null {
  const kept = context.model.constraints.filter(({ id, predicate }) => id !== rule.id && !isLookup(predicate));
  const together = conditions.map((predicate, at): Wish => ({ predicate, is: truths[at] === true ? 'true' : 'false' }));
  const found = context.reasoner.decide(kept, { together });
  if (found.is !== 'possible') return null;
  const paths = [...new Set(conditions.flatMap(mentions))];
  const values = Object.fromEntries(paths.map((path) => [path, valueAt(found.example.row, path)]));
  const row = context.settle(applied(context.base, values), paths, rule.id);
  const fits = brokenRules(context, row).every((id) => id === rule.id);
  return fits && truthsOf(context.model, conditions, row).join() === truths.join() ? values : null;
}
