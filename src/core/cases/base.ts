import { type Decider, decider } from '../decider/index.js';
import { requiredCircle, requiredTargetsOf, type Schema } from '../declare/index.js';
import { decodeValue, type KnownField, targetOf, valueField } from '../kinds/index.js';
import { instancesOf, valueIn } from '../meaning/index.js';
import { ProblemError, problems } from '../messages/index.js';
import { allFields, type Path, type Row, type Value, withValue } from '../model/index.js';
import { isLookup } from '../operators/index.js';
import { Languages, Reasoner } from '../reason/index.js';
import { candidatesOf, pivotsOf, stepsFrom } from './candidates.js';
import { caseClock } from './clock.js';
import type { Stored } from './context.js';
import { Grammars } from './grammars.js';
import { listFields, singleFields } from './places.js';
import { settled } from './settle.js';
import { StoredRows, type Target } from './stored-rows.js';

/** Rows that are stored already, by their ruleset. */
export type Beside = ReadonlyMap<string, readonly Row[]>;

type Model = Schema[number];

/** How far the references of a record lead. */
type Reach = 'all' | 'required';

/** Whether the record that cases start from has its optional fields. */
export type Start = 'optional absent' | 'optional given';

/** A valid record, with the rows that it refers to. The same seed gives the same record. */
export interface Base {
  readonly row: Row;
  readonly before: readonly Stored[];
  /** Plausible values of each field, and those that its rules turn on. */
  readonly choices: ReadonlyMap<Path, readonly Value[]>;
  /** The row with other fields than the fixed ones changed, so that it breaks nothing but what it is about. */
  settle(row: Row, fixed: readonly Path[], about: string): Row;
}

/** A valid record of each ruleset by seed, found once; and the stored rows that records refer to, one for each key. */
export class Bases {
  readonly schema: Schema;
  readonly grammars = new Grammars();
  readonly languages = new Languages();
  /** The rulesets of which some rows that cases refer to can't be told apart. */
  readonly crowded = new Set<string>();
  readonly #found = new Map<string, Base>();
  readonly #deciders = new Map<string, Decider>();
  readonly #rows: StoredRows;
  readonly #beside: Beside;

  /** Whether the records that cases start from have their optional fields, where rules allow either. */
  readonly start: Start;

  /** @param beside rows that are stored already: no record repeats them */
  constructor(schema: Schema, beside: Beside = new Map(), start: Start = 'optional absent') {
    this.start = start;
    this.schema = schema;
    this.#beside = beside;
    this.#rows = new StoredRows(this);
  }

  /** Beside the same stored rows, those of another schema. */
  over(schema: Schema): Bases {
    return new Bases(schema, this.#beside, this.start);
  }

  /** The rows of a ruleset that are stored already. */
  beside(ruleset: string): readonly Row[] {
    return this.#beside.get(ruleset) ?? [];
  }

  /**
   * @param reach how far its references lead: to all that there are, or to those only without which it is no record
   * @throws ProblemError `no_base` where none was found, `no_first_row` where rulesets require each other in a circle
   */
  of(model: Model, seed: number, reach: Reach = 'all'): Base {
    const key = JSON.stringify([model.ruleset, seed, reach]);
    const known = this.#found.get(key) ?? this.#made(model, seed, reach);
    this.#found.set(key, known);
    return known;
  }

  #made(model: Model, seed: number, reach: Reach): Base {
    const circle = requiredCircle(model, this.schema);
    if (circle !== null) throw new ProblemError([problems.noFirstRow(model.place, model.ruleset, circle.join(', '))]);
    return baseOf(model, this, seed, reach);
  }

  /** A stored row of a ruleset that others can name, and the rows behind it. */
  target(model: Model, seed: number): Target {
    return this.#rows.bySeed(model, seed);
  }

  /** The rows that a key names, the row itself last; none where no valid row has such a key. */
  rowsNamed(model: Model, key: Value): readonly Stored[] {
    return this.#rows.byKey(model, key);
  }

  /** The rules that a record breaks by itself; look-ups are not asked. */
  brokenBy(model: Model, row: Row): readonly string[] {
    const verdict = this.deciderOf(model)(row, 'row', { clock: caseClock(model) });
    return 'refused' in verdict ? verdict.refused.map(({ rule }) => rule) : [];
  }

  deciderOf(model: Model): Decider {
    const known = this.#deciders.get(model.ruleset) ?? decider(model);
    this.#deciders.set(model.ruleset, known);
    return known;
  }
}

/**
 * Finds a valid record: the most plausible value of each field, then, while a rule is broken, other values for the
 * fields that it mentions. Where that leads nowhere, one is worked out.
 */
function baseOf(model: Model, bases: Bases, seed: number, reach: Reach): Base {
  const targets = new Map<string, readonly Target[]>();
  const choices = new Map<Path, readonly Value[]>();
  for (const field of singleFields(model)) {
    if (targetOf(field) !== null) targets.set(field.path, targetRows(field, model, bases, seed, reach));
    choices.set(field.path, valuesFor(field, model, targets.get(field.path) ?? null, seed, bases));
  }
  for (const field of listFields(model)) choices.set(field.path, listsFor(field, model, bases, seed, reach));
  const first = [...choices].reduce<Row>((row, [path, values]) => withValue(row, path, values[0] ?? null), {});
  const brokenBy = (row: Row) => bases.brokenBy(model, row);
  const settle = (row: Row, fixed: readonly Path[], about: string) =>
    settled(model, brokenBy, row, choices, fixed, about);
  const row = settle(first, [], '');
  const broken = brokenBy(row);
  if (broken.length === 0) return { row, before: targetsNamed(row, model, bases), choices, settle };
  const example = workedOut(model, brokenBy, bases.languages);
  if (example === null) throw new ProblemError([problems.noBase(model.place, model.ruleset, broken.join(', '))]);
  const known = withKnownTargets(model, example, choices, brokenBy);
  const worked = reach === 'required' ? withoutReferences(model, known, brokenBy) : known;
  return { row: worked, before: targetsNamed(worked, model, bases), choices, settle };
}

/** A valid record by reasoning, where trying found none; null where that finds none either. */
function workedOut(model: Model, brokenBy: (row: Row) => readonly string[], languages: Languages): Row | null {
  const own = model.constraints.filter(({ predicate }) => !isLookup(predicate));
  const found = new Reasoner(model, languages).decide(own);
  if (found.is !== 'possible') return null;
  return brokenBy(found.example.row).length === 0 ? found.example.row : null;
}

/** A valid record with references to rows that there are, as far as it stays valid. */
function withKnownTargets(
  model: Model,
  start: Row,
  choices: ReadonlyMap<Path, readonly Value[]>,
  brokenBy: (row: Row) => readonly string[],
): Row {
  const references = [...singleFields(model), ...listFields(model)].filter(
    (field) => targetOf(field) !== null || (field.item !== null && targetOf(field.item) !== null),
  );
  return references.reduce((row, { path }) => {
    const others = (choices.get(path) ?? []).map((value) => withValue(row, path, value));
    return others.find((other) => brokenBy(other).length === 0) ?? row;
  }, start);
}

/** A valid record without the references that it can do without. */
function withoutReferences(model: Model, start: Row, brokenBy: (row: Row) => readonly string[]): Row {
  const references = singleFields(model).filter((field) => targetOf(field) !== null);
  return references.reduce((row, { path }) => {
    const without = withValue(row, path, null);
    return brokenBy(without).length === 0 ? without : row;
  }, start);
}

function valuesFor(
  field: KnownField,
  model: Model,
  targets: readonly Target[] | null,
  seed: number,
  { grammars, start }: Bases,
): readonly Value[] {
  const keys = targets?.map(({ key }) => key) ?? candidatesOf(field, seed, grammars);
  const pivots = model.constraints
    .filter(({ facet, subjects }) => !facet && subjects.includes(field.path))
    .flatMap(({ predicate }) => pivotsOf(model, field.path, predicate));
  const absent = field.optional ? [null] : [];
  const { min, max } = valueField(field).facets;
  const limits = [min, max].filter((limit): limit is string | number => limit !== undefined);
  // A step to each side of the likeliest value: the way out of a rule that compares two fields.
  const near = stepsFrom(field, keys[0] ?? null);
  return [
    ...new Set([
      // A case about what a record refers to needs the reference.
      ...(start === 'optional absent' && targets === null ? absent : []),
      ...keys,
      ...(targets === null ? [...pivots, ...near, ...limits.map((limit) => asValue(field, limit))] : []),
      ...absent,
    ]),
  ];
}

/** A limit as the field would hold it. */
export function asValue(field: KnownField, limit: string | number): Value {
  const decoded = decodeValue(field, String(limit), 'form');
  return 'value' in decoded ? decoded.value : null;
}

/** A list of so many plausible items as it may have, two if it may; and others, an empty one first. */
function listsFor(field: KnownField, model: Model, bases: Bases, seed: number, reach: Reach): readonly Value[] {
  const { item, facets } = field;
  if (item === null) return [[]];
  const least = Number(facets.minItems ?? 0);
  const most = Number(facets.maxItems ?? Math.max(least, 2));
  const keysFor = (inner: KnownField, at: number) => itemKey(inner, model, bases, at);
  // A record that others refer to has no references of its own but those that it needs: they could lead back to it.
  if (reach === 'required' && refersAnywhere(item)) return [listOf(item, least, bases.grammars, seed, keysFor)];
  const count = countWithin(least, most);
  return [count, 0, 1, 3]
    .filter((one, at) => at === 0 || (one >= least && one <= Number(facets.maxItems ?? one) && one !== count))
    .map((one) => listOf(item, one, bases.grammars, seed, keysFor));
}

/** A count of entries that is at no limit, where there is one; two if it may be. */
function countWithin(least: number, most: number): number {
  const counts = [2, 1, 3, least + 1].filter((count) => count > least && count < most);
  return counts[0] ?? Math.max(least, Math.min(most, 2));
}

/** The key that an entry of a list names: one that a stored row has. */
export function itemKey(field: KnownField, model: Model, bases: Bases, seed: number): Value {
  const target = bases.schema.find(({ ruleset }) => ruleset === targetOf(field)?.to);
  if (target === undefined) return null;
  return bases.target(target, seed + IN_LISTS + (target === model ? OF_ITS_OWN : 0)).key;
}

/** True for a reference, or for what holds one. */
function refersAnywhere(field: KnownField): boolean {
  const { fields, item } = field;
  if (targetOf(field) !== null || (item !== null && refersAnywhere(item))) return true;
  return Object.values(fields ?? {}).some(refersAnywhere);
}

/** Rows that entries of lists name are others than those that fields name. */
const IN_LISTS = 40;

/** What an entry names that refers to a stored row; null where that is not known. */
export type KeyFor = (field: KnownField, seed: number) => Value;

/** A list of so many plausible items. */
export function listOf(item: KnownField, count: number, grammars: Grammars, seed = 0, keyFor?: KeyFor): Value {
  return Array.from({ length: count }, (_, at) => itemFor(item, seed + at * 3, grammars, keyFor));
}

/** A plausible item. */
export function itemFor(item: KnownField, seed: number, grammars: Grammars, keyFor: KeyFor = () => null): Value {
  if (item.item !== null) return [];
  if (item.fields === null)
    return (targetOf(item) === null ? null : keyFor(item, seed)) ?? candidatesOf(item, seed, grammars)[0] ?? null;
  return Object.fromEntries(
    Object.values(item.fields).map((field) => [field.name, itemFor(field, seed, grammars, keyFor)]),
  );
}

/** Two of them, as a rule may ask that two references differ; a record of the same ruleset is another one. */
function targetRows(field: KnownField, model: Model, bases: Bases, seed: number, reach: Reach): readonly Target[] {
  const target = bases.schema.find(({ ruleset }) => ruleset === field.facets.to);
  if (target === undefined) throw new Error(`no ruleset ${field.facets.to} in the schema`);
  if (reach === 'required' && !requiredTargetsOf(model).includes(target.ruleset)) return [];
  const first = target === model ? seed + OF_ITS_OWN : seed;
  return [first, first + 1].map((one) => bases.target(target, one));
}

/** Rows that a record of the same ruleset refers to come from seeds that no record has itself. */
const OF_ITS_OWN = 20;

/** Each stored row once. */
export function distinct(stored: readonly Stored[]): readonly Stored[] {
  const byContent = new Map(stored.map((one) => [JSON.stringify(one), one]));
  return [...byContent.values()];
}

/** The rows that a record's references name, as far as they can be made valid, each after those that it refers to. */
export function targetsNamed(row: Row, model: Model, bases: Bases): readonly Stored[] {
  const { schema } = bases;
  const named = allFields(model)
    .filter((field) => targetOf(field) !== null)
    .flatMap(({ path, facets }) =>
      instancesOf(row, path).flatMap((indices): readonly Stored[] => {
        const key = valueIn(row, path, indices);
        const target = schema.find(({ ruleset }) => ruleset === facets.to);
        return target === undefined || key === null ? [] : bases.rowsNamed(target, key);
      }),
    );
  return distinct(named);
}
