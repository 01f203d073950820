import { decodeValue, type KnownField, valueField } from '../kinds/index.js';
import {
  type Constraint,
  fieldAt,
  type Predicate,
  type Random,
  type Row,
  randomFrom,
  seedOf,
  type Value,
  valueAt,
} from '../model/index.js';
import { isLookup } from '../operators/index.js';
import { listOf } from './base.js';
import { lengthsIn, pivotsOf, stepsFrom } from './candidates.js';
import { applied, brokenRules, type Context, type Criterion, changed } from './context.js';
import { textOfLength, textsHolding } from './own-texts.js';
import { comesTo, conditionsOf, isAboutEntries, outcomeOf, truthsOf } from './sides.js';

/** At most so many combinations of values are tried for a rule. */
const MOST_COMBINATIONS = 4000;
/** At most so many outcomes are shown that other rules never allow alone. */
const MOST_TOGETHER = 12;

/**
 * Every outcome of a rule over several fields: each comparison below, at and above its limit, each condition true, false
 * and unknown, in every combination that can be reached.
 */
export const rules: Criterion = (context) =>
  context.model.constraints
    .filter((rule) => !rule.facet && !isLookup(rule.predicate) && !isAboutEntries(rule))
    .flatMap((rule) =>
      outcomes(context, rule).flatMap((values) =>
        changed(context, values, { constraint: rule.id, reason: reasonFor(context, rule, values) }),
      ),
    );

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
  // What is never seen alone is shown together with the other faults that it takes.
  const rank = ([outcome, { values }]: readonly [string, { readonly values: Row }]) =>
    telling(rule, outcome, applied(context.base, values), context.model);
  const together = [...best].filter(([, one]) => !alone.includes(one)).sort((a, b) => rank(a) - rank(b));
  return [...alone, ...together.slice(0, MOST_TOGETHER).map(([, one]) => one)].map(({ values }) => values);
}

/** Less for an outcome that tells more: one at a limit that decides whether the rule is kept, of which all is known. */
function telling({ predicate }: Constraint, outcome: string, row: Row, model: Context['model']): number {
  const sides = outcome.split(',');
  const truths = truthsOf(model, conditionsOf(predicate), row);
  const other = (at: number) => truths.map((truth, index) => (index === at ? truth === false : truth));
  const decides = (at: number) => comesTo(predicate, truths) !== comesTo(predicate, other(at));
  const atLimit = sides.flatMap((side, at) => (side === '0' ? [at] : []));
  return (atLimit.some(decides) ? 0 : 4) + Number(sides.includes('?')) * 2 + Number(atLimit.length === 0);
}

/** The base with those values, and other fields changed so that it breaks nothing else. */
function settledWith(context: Context, { id }: Constraint, values: Row): Row {
  return context.settle(applied(context.base, values), Object.keys(values), id);
}

function otherFaults(context: Context, { id }: Constraint, row: Row): number {
  return brokenRules(context, row).filter((rule) => rule !== id).length;
}

/** True for what a field can hold: a text that is no time has no place in a sum of times. */
function isOfKind(field: KnownField, value: Value): boolean {
  return 'value' in decodeValue(valueField(field) as KnownField, value, 'row');
}

/** Values of a rule's fields at its turning points, in combination: as many as are tried. */
export function combinations(context: Context, { id, subjects, predicate }: Constraint): readonly Row[] {
  const near = subjects.flatMap((path) => {
    const value = valueAt(context.base, path);
    return value === null ? [] : stepsFrom(fieldAt(context.model, path), value);
  });
  // Numbers that one field turns on may be what another is compared with.
  const turning = subjects
    .flatMap((path) => pivotsOf(context.model, path, predicate))
    .filter((value) => typeof value === 'number');
  // Of what is asked whether it is there, a required field may be missing, too.
  const asksPresence = conditionsOf(predicate).some(({ op }) => op === 'given' || op === 'givenCount');
  const perField: (readonly [path: string, values: readonly Value[]])[] = [];
  for (const path of subjects) {
    const field = fieldAt(context.model, path);
    const own = [...pivotsOf(context.model, path, predicate), valueAt(context.base, path)];
    const shared = [...near, ...turning].filter(
      (value) => typeof value === typeof valueAt(context.base, path) && isOfKind(field, value),
    );
    const more = (context.choices.get(path) ?? []).slice(0, 3);
    const lists =
      field.item === null
        ? []
        : countsIn(predicate).map((count) =>
            listOf(field.item as KnownField, count, context.grammars, 0, context.keyFor),
          );
    const texts = [
      ...lengthsIn(predicate).flatMap((length) => textOfLength(context, field, length) ?? []),
      ...textsHolding(context, field, predicate),
    ];
    const all: readonly Value[] = [
      ...new Set([...texts, ...own, ...shared, ...more, ...lists, ...(field.optional || asksPresence ? [null] : [])]),
    ];
    // A count that a list is compared with is no list.
    const values = field.item === null ? all : all.filter(Array.isArray);
    perField.push([path, values]);
  }
  const count = perField.reduce((product, [, values]) => product * values.length, 1);
  if (count > MOST_COMBINATIONS) return drawnCombinations(perField, randomFrom(seedOf(id)));
  return perField.reduce<readonly Row[]>(
    (rows, [path, values]) => rows.flatMap((row) => values.map((value) => ({ ...row, [path]: value }))),
    [{}],
  );
}

/** Some of the combinations, where there are too many. */
function drawnCombinations(
  perField: readonly (readonly [path: string, values: readonly Value[]])[],
  random: Random,
): readonly Row[] {
  return Array.from({ length: MOST_COMBINATIONS }, () =>
    Object.fromEntries(perField.map(([path, values]) => [path, random.pick(values)])),
  );
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
