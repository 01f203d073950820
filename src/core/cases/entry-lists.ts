import { edgesOf, isScalar, type KnownField, sampleOf, valueDomain, valuesOf } from '../kinds/index.js';
import {
  type Constraint,
  fieldAt,
  type Path,
  type Pattern,
  type Predicate,
  type Random,
  type Row,
  type Value,
  valueAt,
} from '../model/index.js';
import { asValue, itemFor, listOf } from './base.js';
import { stepsFrom } from './candidates.js';
import type { Context } from './context.js';
import { countsIn } from './rules.js';

/** At most so many lists are tried one change away from the base's. */
const MOST_TRIED = 400;
const MOST_MULTIPLIED = 24;
/** A list that is drawn has at most so many entries, unless a rule counts more. */
const USUAL_COUNT = 3;

/** Lists near the base's: itself, none, one entry less, and each entry with each of its values a little different. */
export function listsNear(
  { model, base, grammars, keyFor }: Context,
  list: Path,
  { predicate }: Constraint,
): readonly Value[] {
  const { item } = fieldAt(model, list);
  const value = valueAt(base, list);
  const items: readonly Value[] = Array.isArray(value) ? value : [];
  if (item === null) return [];
  const other = items.flatMap((one, at) =>
    differing(item, one).map((changedItem) => items.map((old, index) => (index === at ? changedItem : old))),
  );
  const all = items.map((one) => differing(item, one));
  const together = (all[0] ?? []).map((_, at) => items.map((old, index) => all[index]?.[at] ?? old));
  const counted = countsIn(predicate).map((count) => listOf(item, count, grammars, 0, keyFor));
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
  const near = stepsFrom(item, value);
  const samples = [0, 1, 2, 3, 4].map((seed) => sampleOf(item, seed));
  const short = valueDomain(item) === 'text' ? ['a', 'ab', 'abc'] : [];
  return [...new Set([...near, ...edgesOf(item).map((edge) => edge.value), ...samples, ...short])];
}

/** A list of entries drawn from what a rule turns on: mostly entries of which one value is not the usual one. */
export function drawnList(context: Context, list: Path, rule: Constraint, random: Random): Value {
  const { item } = fieldAt(context.model, list);
  if (item === null) return [];
  const most = Math.max(USUAL_COUNT, ...countsIn(rule.predicate));
  const pivots = pivotsIn(rule.predicate);
  // Of one entry it is plain what the rule says.
  const length = random.below(2) === 0 ? 1 : random.below(most + 1);
  return Array.from({ length }, (_, at) => drawnEntry(context, item, pivots, random, random.below(4) === 0 ? 0 : at));
}

function drawnEntry(context: Context, item: KnownField, pivots: readonly Value[], random: Random, seed: number): Value {
  if (item.fields !== null) {
    const fields = Object.values(item.fields);
    return Object.fromEntries(fields.map((field) => [field.name, drawnEntry(context, field, pivots, random, seed)]));
  }
  if (!isScalar(item)) return itemFor(item, seed, context.grammars, context.keyFor);
  if (random.below(item.optional ? 3 : 5) === 0) return null;
  const usual = itemFor(item, seed, context.grammars, context.keyFor);
  if (random.below(3) === 0) return usual;
  const own = pivotsFor(item, pivots);
  if (own.length > 0 && random.below(2) === 0) return random.pick(own);
  return random.pick([usual, ...own, ...(valuesOf(item) ?? []), ...edgesOf(item).map(({ value }) => value)]);
}

/** Those of the values that a field can hold at all. */
function pivotsFor(field: KnownField, pivots: readonly Value[]): readonly Value[] {
  if (valueDomain(field) === 'text') return [...pivots.filter((value) => typeof value === 'string'), 'x', 'ab'];
  return pivots.flatMap((value) => {
    const held = value === null || typeof value === 'object' ? null : asValue(field, String(value));
    return held === null ? [] : [held];
  });
}

/** Values of a field beside the list of a rule: plausible ones, those that the rule turns on, and none. */
export function valuesBeside(context: Context, path: Path, { predicate }: Constraint): readonly Value[] {
  const pivots = pivotsFor(fieldAt(context.model, path), pivotsIn(predicate));
  return [valueAt(context.base, path), ...(context.choices.get(path) ?? []), ...pivots, null];
}

/** The values that a predicate names, and those a step beside them; of a text, what holds it, and what a pattern takes. */
function pivotsIn(predicate: Predicate): readonly Value[] {
  const found: Value[] = [];
  const walk = (part: unknown): void => {
    if (typeof part !== 'object' || part === null) return;
    const { term, value, pattern, among } = part as { [name: string]: unknown };
    if (term === 'literal') found.push(value as Value);
    if (Array.isArray(among)) found.push(...(among as Value[]));
    if (pattern !== undefined) found.push(...wordsBeside(pattern as Pattern));
    for (const inner of Object.values(part)) walk(inner);
  };
  walk(predicate);
  const numbers = found.map(Number).filter((value) => !Number.isNaN(value));
  const apart = numbers.flatMap((a) => numbers.map((b) => a - b));
  const beside = found.flatMap((value): readonly Value[] => {
    if (typeof value === 'number') return [value, value - 1, value + 1];
    return typeof value === 'string' ? [value, `${value}x`, `x${value}`] : [value];
  });
  return [...new Set([...beside, ...apart])].filter((value) => value !== '');
}

/** Short texts, some of which a pattern takes. */
function wordsBeside({ source }: Pattern): readonly string[] {
  const plain = [...source].filter((character) => /[\p{L}\p{N}\p{So}]/u.test(character)).slice(0, 3);
  return [...plain, plain.join(''), 'x', 'ab'];
}
