import { isScalar } from '../kinds/index.js';
import {
  type Constraint,
  fieldAt,
  listsOf,
  type Row,
  randomFrom,
  seedOf,
  type Value,
  valueAt,
  wires,
} from '../model/index.js';
import { isLookup } from '../operators/index.js';
import { applied, brokenRules, type Context, type Criterion, changed, type Draft } from './context.js';
import { drawnList, listsNear, valuesBeside } from './entry-lists.js';
import { isAboutEntries, outcomesWithin } from './sides.js';

/** At most so many outcomes of a rule are shown, and so many lists are drawn for those that were not found nearby. */
const MOST_OUTCOMES = 40;
const MOST_DRAWN = 480;
const MOST_TOGETHER = 24;

/** Each outcome of a rule about the entries of a list: kept and broken, as far as a list was found that shows it alone. */
export const itemRules: Criterion = (context) =>
  context.model.constraints
    .filter((rule) => !rule.facet && !isLookup(rule.predicate) && isAboutEntries(rule))
    .flatMap((rule) => outcomes(context, rule));

function outcomes(context: Context, rule: Constraint): readonly Draft[] {
  return outcomeRows(context, rule).flatMap(({ values, broken }) =>
    changed(
      context,
      values,
      { constraint: rule.id, reason: broken ? 'breaks the rule' : 'keeps the rule' },
      // On a form, an entry without a value is none.
      Object.values(values).some(hasBlankEntry) ? ['json', 'row'] : wires,
    ),
  );
}

function hasBlankEntry(value: Value): boolean {
  const isBlank = (entry: Value) =>
    entry === null || (typeof entry === 'object' && Object.values(entry).every((inner) => inner === null));
  return Array.isArray(value) && value.some(isBlank);
}

/** Values of a rule's fields, and whether they break it. */
interface Outcome {
  readonly values: Row;
  readonly broken: boolean;
}

/** Values of a rule's fields for each outcome of its conditions, as far as some were found that break no other rule. */
export function outcomeRows(context: Context, rule: Constraint): readonly Outcome[] {
  const isList = (path: string) => fieldAt(context.model, path).item !== null;
  const list =
    rule.over ?? listsOf(rule.subjects.find((path) => listsOf(path).length > 0) ?? '')[0] ?? rule.subjects.find(isList);
  if (list === undefined) return [];
  const found = new Map<string, Outcome>();
  const together = new Map<string, Outcome>();
  const others = rule.subjects.filter((path) => path !== list && fieldAt(context.model, path).item !== null);
  const emptied: Row = Object.fromEntries(others.map((path) => [path, []]));
  const beside = rule.subjects.filter((path) => listsOf(path).length === 0 && isScalar(fieldAt(context.model, path)));
  const near = [
    ...listsNear(context, list, rule).map((value): Row => ({ [list]: value })),
    ...beside.flatMap((path) =>
      (context.choices.get(path) ?? []).map((value): Row => ({ [list]: valueAt(context.base, list), [path]: value })),
    ),
  ];
  const random = randomFrom(seedOf(rule.id));
  const drawn = Array.from({ length: MOST_DRAWN }, (): Row => {
    const values = beside.map((path) => [path, random.pick(valuesBeside(context, path, rule))]);
    return { [list]: drawnList(context, list, rule, random), ...Object.fromEntries(values) };
  });
  const all = [...near, ...(others.length === 0 ? [] : near.map((one) => ({ ...one, ...emptied }))), ...drawn];
  for (const values of all) {
    if (found.size >= MOST_OUTCOMES) break;
    const given = applied(context.base, values);
    // Nothing that the rule asks of is changed for other rules' sake: its sides are known before.
    const sides = outcomesWithin(rule, given, context.model);
    if (found.has(sides)) continue;
    const row = context.settle(given, Object.keys(values), rule.id);
    const rules = brokenRules(context, row);
    const broken = rules.includes(rule.id);
    const known = rules.every((one) => one === rule.id) ? found : together;
    if (!known.has(sides)) known.set(sides, { values, broken });
  }
  // What is never seen alone is shown together with the other faults that it takes.
  const unseen = [...together].filter(([outcome]) => !found.has(outcome)).slice(0, MOST_TOGETHER);
  return [...found.values(), ...unseen.map(([, outcome]) => outcome)];
}
