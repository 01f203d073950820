import { judgingFor } from '../meaning/index.js';
import type { Constraint, Path, Predicate, PredicateOf, Row } from '../model/index.js';
import { isLookup, mentions, sourcesOf } from '../operators/index.js';
import { caseClock } from './clock.js';
import { applied, brokenRules, type Context } from './context.js';
import { combinations } from './rules.js';
import { outcomesWithin } from './sides.js';

/** So many combinations of values are settled for a condition. */
const MOST_SETTLED = 300;

/**
 * Valid records around the condition of a unique rule: one for which it holds, or null where none was found; and one for
 * each other way in which its parts can come out, for which it does not.
 *
 * @param of the fields that must differ
 */
export function conditionRows(
  context: Context,
  constraint: Constraint,
  among: Predicate,
  of: readonly Path[],
): { readonly met: Row | null; readonly others: readonly Row[] } {
  const { model } = context;
  const subjects = [...new Set(mentions(among).flatMap((path) => sourcesOf(path, model)))];
  const condition: Constraint = { ...constraint, subjects, predicate: among };
  const isMet = (row: Row) => judgingFor(model, row, caseClock(model)).truth(among) === true;
  const byOutcome = new Map<string, Row>();
  let settled = 0;
  for (const values of [{}, ...combinations(context, condition)]) {
    const start = applied(context.base, values);
    const outcome = outcomesWithin(condition, start, model);
    if (byOutcome.has(outcome) || settled >= MOST_SETTLED) continue;
    settled += 1;
    const row = context.settle(start, [...Object.keys(values), ...of], constraint.id);
    if (brokenRules(context, row).length === 0) byOutcome.set(outcomesWithin(condition, row, model), row);
  }
  const rows = [...byOutcome.values()];
  return { met: rows.find(isMet) ?? workedOut(context, constraint), others: rows.filter((row) => !isMet(row)) };
}

/** A record for which the condition holds, by reasoning; null where none was found. */
function workedOut({ model, reasoner }: Context, { predicate }: Constraint): Row | null {
  if (predicate.op !== 'unique') return null;
  const own = model.constraints.filter((one) => !isLookup(one.predicate));
  const found = reasoner.decide(own, { predicate: concerned(predicate), is: 'true' });
  return found.is === 'possible' ? found.example.row : null;
}

/** True for the records that a unique rule is about: its condition holds, and what must differ is given. */
export function concerned({ of, among }: PredicateOf<'unique'>): Predicate {
  const given = of.map((path): Predicate => ({ op: 'given', of: path }));
  return { op: 'and', all: among === null ? given : [among, ...given] };
}
