import { type KnownField, kindOf, valueField } from '../kinds/index.js';
import { judgingFor } from '../meaning/index.js';
import {
  type Constraint,
  fieldAt,
  type Model,
  type Predicate,
  type Row,
  type Term,
  type Value,
  valueAt,
} from '../model/index.js';
import { isLookup, order, valueOfTerm } from '../operators/index.js';
import { listOf } from './base.js';
import { pivotsOf, stepsFrom } from './candidates.js';
import { caseClock } from './clock.js';
import { applied, brokenRules, type Context, type Criterion, changed } from './context.js';

/** At most so many combinations of values are tried for a rule. */
const MOST_COMBINATIONS = 4000;

/**
 * Every outcome of a rule over several fields: each comparison below, at and above its limit, each condition true, false
 * and unknown, in every combination that can be reached.
 */
export const rules: Criterion = (context) =>
  context.model.constraints
    .filter(
      ({ facet, predicate, over, subjects }) => !facet && !isLookup(predicate) && over === null && isPlain(subjects),
    )
    .flatMap((rule) =>
      outcomes(context, rule).flatMap((values) =>
        changed(context, values, { constraint: rule.id, reason: reasonFor(context, rule, values) }),
      ),
    );

/** About fields that are in no list; what a rule says of a list has a criterion of its own. */
function isPlain(subjects: readonly string[]): boolean {
  return subjects.every((path) => !path.includes('[]'));
}

/** One combination of values for each outcome, the one that breaks the fewest other rules. */
function outcomes(context: Context, rule: Constraint): readonly Row[] {
  const best = new Map<string, { readonly values: Row; readonly faults: number }>();
  for (const values of combinations(context, rule)) {
    const row = applied(context.base, values);
    const outcome = conditionsOf(rule.predicate)
      .map((one) => outcomeOf(one, row, context.model))
      .join();
    const known = best.get(outcome);
    if (known?.faults === 0) continue;
    const faults = otherFaults(context, rule, row);
    if (known === undefined || faults < known.faults) best.set(outcome, { values, faults });
  }
  const alone = [...best.values()].filter(
    ({ values, faults }) => faults === 0 || otherFaults(context, rule, settledWith(context, rule, values)) === 0,
  );
  // A rule that is never broken alone is shown together with the others that it takes.
  const isShown = alone.some(({ values }) =>
    brokenRules(context, settledWith(context, rule, values)).includes(rule.id),
  );
  return (isShown ? alone : [...best.values()]).map(({ values }) => values);
}

/** The base with those values, and other fields changed so that it breaks nothing else. */
function settledWith(context: Context, { id }: Constraint, values: Row): Row {
  return context.settle(applied(context.base, values), Object.keys(values), id);
}

function otherFaults(context: Context, { id }: Constraint, row: Row): number {
  return brokenRules(context, row).filter((rule) => rule !== id).length;
}

/** Values of a rule's fields at its turning points, in combination: as many as are tried. */
export function combinations(context: Context, { subjects, predicate }: Constraint): readonly Row[] {
  const near = subjects.flatMap((path) => {
    const value = valueAt(context.base, path);
    return value === null ? [] : stepsFrom(kindOf(valueField(fieldAt(context.model, path))).domain, value);
  });
  let rows: readonly Row[] = [{}];
  for (const path of subjects) {
    const field = fieldAt(context.model, path);
    const own = [...pivotsOf(context.model, path, predicate), valueAt(context.base, path)];
    const shared = near.filter((value) => typeof value === typeof valueAt(context.base, path));
    const more = (context.choices.get(path) ?? []).slice(0, 3);
    const lists =
      field.item === null ? [] : countsIn(predicate).map((count) => listOf(field.item as KnownField, count));
    const all: readonly Value[] = [
      ...new Set([...own, ...shared, ...more, ...lists, ...(field.optional ? [null] : [])]),
    ];
    // A count that a list is compared with is no list.
    const values = field.item === null ? all : all.filter(Array.isArray);
    rows = rows.flatMap((row) => values.map((value) => ({ ...row, [path]: value }))).slice(0, MOST_COMBINATIONS);
  }
  return rows;
}

/** The counts of entries around those that a predicate compares with, few enough to be written out. */
export function countsIn(predicate: Predicate): readonly number[] {
  const limits = conditionsOf(predicate).flatMap((one) => {
    if (one.op !== 'compare') return [];
    const [counted, limit] = one.left.term === 'count' ? [one.left, one.right] : [one.right, one.left];
    return counted.term === 'count' && limit.term === 'literal' ? [Number(limit.value)] : [];
  });
  const around = limits.flatMap((limit) => [limit - 1, limit, limit + 1]);
  return [...new Set(around)].filter((count) => Number.isSafeInteger(count) && count >= 0 && count <= MOST_ITEMS);
}

/** Lists of more entries than this are not made for a rule. */
const MOST_ITEMS = 60;

/** The conditions that a predicate is built from, in the order of its text. */
export function conditionsOf(predicate: Predicate): readonly Predicate[] {
  if (predicate.op === 'and') return predicate.all.flatMap(conditionsOf);
  if (predicate.op === 'or') return predicate.any.flatMap(conditionsOf);
  return predicate.op === 'not' ? conditionsOf(predicate.holds) : [predicate];
}

/** Where a condition stands: the side of its limit, or whether it holds; `?` where a value is absent. */
export function outcomeOf(predicate: Predicate, row: Row, model: Model): string {
  if (predicate.op === 'compare') {
    const [a, b] = [termValue(predicate.left, row, model), termValue(predicate.right, row, model)];
    return a === null || b === null ? '?' : String(Math.sign(order(predicate.domain, a, b)));
  }
  return String(judgingFor(model, row, caseClock(model)).truth(predicate) ?? '?');
}

/** What a term is worth over a record by itself. */
function termValue(term: Term, row: Row, model: Model): Value {
  return valueOfTerm(term, judgingFor(model, row, caseClock(model)));
}

/** What the values are for: where the rule stands with them, and whether they are just at its limit. */
function reasonFor(context: Context, rule: Constraint, values: Row): string {
  const { model, base } = context;
  const row = applied(base, values);
  const broken = brokenRules(context, row).includes(rule.id);
  const sides = conditionsOf(rule.predicate).map((one) => outcomeOf(one, row, model));
  const limit = sides.includes('0') ? ', exactly at a limit' : '';
  if (broken) return `breaks the rule${limit}`;
  return sides.includes('?') ? 'a value is absent: unknown, hence not broken' : `keeps the rule${limit}`;
}
