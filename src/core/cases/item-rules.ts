import { edgesOf, isScalar, type KnownField, sampleOf, valueDomain } from '../kinds/index.js';
import { type Constraint, fieldAt, listsOf, type Row, type Value, valueAt } from '../model/index.js';
import { isLookup } from '../operators/index.js';
import { listOf } from './base.js';
import { stepsFrom } from './candidates.js';
import { applied, brokenRules, type Context, type Criterion, changed, type Draft } from './context.js';
import { conditionsOf, countsIn, outcomeOf } from './rules.js';

/** At most so many lists are tried for a rule. */
const MOST_TRIED = 400;
const MOST_MULTIPLIED = 24;

/** Each outcome of a rule about the entries of a list: kept and broken, as far as a list was found that shows it alone. */
export const itemRules: Criterion = (context) =>
  context.model.constraints
    .filter(({ facet, predicate, over, subjects }) => {
      const isAboutItems = over !== null || subjects.some((path) => listsOf(path).length > 0);
      return !facet && !isLookup(predicate) && isAboutItems;
    })
    .flatMap((rule) => outcomes(context, rule));

function outcomes(context: Context, rule: Constraint): readonly Draft[] {
  return outcomeRows(context, rule).flatMap(({ values, broken }) =>
    changed(context, values, { constraint: rule.id, reason: broken ? 'breaks the rule' : 'keeps the rule' }),
  );
}

/** Values of a rule's fields, and whether they break it. */
interface Outcome {
  readonly values: Row;
  readonly broken: boolean;
}

/** Values of a rule's fields for each outcome of its conditions, as far as some were found that break no other rule. */
export function outcomeRows(context: Context, rule: Constraint): readonly Outcome[] {
  const list = listsOf(rule.subjects.find((path) => listsOf(path).length > 0) ?? '')[0];
  if (list === undefined) return [];
  const found = new Map<string, Outcome>();
  const together = new Map<string, Outcome>();
  const others = rule.subjects.filter((path) => path !== list && fieldAt(context.model, path).item !== null);
  const emptied: Row = Object.fromEntries(others.map((path) => [path, []]));
  const beside = rule.subjects.filter((path) => listsOf(path).length === 0 && isScalar(fieldAt(context.model, path)));
  const all = [
    ...variants(context, list, rule).map((value): Row => ({ [list]: value })),
    ...beside.flatMap((path) =>
      (context.choices.get(path) ?? []).map((value): Row => ({ [list]: valueAt(context.base, list), [path]: value })),
    ),
  ];
  for (const values of others.length === 0 ? all : [...all, ...all.map((one) => ({ ...one, ...emptied }))]) {
    const row = context.settle(applied(context.base, values), Object.keys(values), rule.id);
    const rules = brokenRules(context, row);
    const broken = rules.includes(rule.id);
    // Judged item by item, its conditions have no outcome of the record.
    const sides =
      rule.over === null ? conditionsOf(rule.predicate).map((one) => outcomeOf(one, row, context.model)) : [];
    const outcome = `${broken} ${sides.join()}`;
    const known = rules.every((one) => one === rule.id) ? found : together;
    if (!known.has(outcome)) known.set(outcome, { values, broken });
  }
  // A rule that is never broken alone is shown together with the others that it takes.
  const isShown = [...found.values()].some(({ broken }) => broken);
  return isShown ? [...found.values()] : [...new Map([...together, ...found]).values()];
}

/** Lists to try: the base, none, one entry less, and each entry with each of its values a little different. */
function variants({ model, base }: Context, list: string, { predicate }: Constraint): readonly Value[] {
  const { item } = fieldAt(model, list);
  const value = valueAt(base, list);
  const items: readonly Value[] = Array.isArray(value) ? value : [];
  if (item === null) return [];
  const other = items.flatMap((one, at) =>
    differing(item, one).map((changedItem) => items.map((old, index) => (index === at ? changedItem : old))),
  );
  const all = items.map((one) => differing(item, one));
  const together = (all[0] ?? []).map((_, at) => items.map((old, index) => all[index]?.[at] ?? old));
  const counted = countsIn(predicate).map((count) => listOf(item, count));
  // As many entries as are counted, of each that differs.
  const multiplied = countsIn(predicate).flatMap((count) =>
    (all[0] ?? []).slice(0, MOST_MULTIPLIED).map((one): Value => Array.from({ length: count }, () => one)),
  );
  return [items, [], items.slice(0, 1), ...counted, ...other, ...together, ...multiplied].slice(0, MOST_TRIED);
}

function differing(item: KnownField, value: Value): readonly Value[] {
  if (item.fields !== null && typeof value === 'object' && value !== null) {
    const record = value as Row;
    return Object.values(item.fields).flatMap((field) =>
      differing(field, record[field.name] ?? null).map((one): Value => ({ ...record, [field.name]: one })),
    );
  }
  if (!isScalar(item)) return [];
  const near = stepsFrom(valueDomain(item), value);
  const samples = [0, 1, 2, 3, 4].map((seed) => sampleOf(item, seed));
  const short = valueDomain(item) === 'text' ? ['a', 'ab', 'abc'] : [];
  return [...new Set([...near, ...edgesOf(item).map((edge) => edge.value), ...samples, ...short])];
}
