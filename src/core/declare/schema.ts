import { type KindName, targetOf, valueDomain } from '../kinds/index.js';
import { type Problem, ProblemError, problems } from '../messages/index.js';
import { allFields, type Constraint, type Field, type Model, type Place, type Predicate } from '../model/index.js';
import { requiredTargetsOf } from './circles.js';
import { snakeCase } from './names.js';
import type { AnyRuleset } from './types.js';

/** Rulesets that live in one database, each after those that it refers to as far as they form no circle. */
export type Schema = readonly Model<KindName>[];
type Known = Model<KindName>;

/**
 * Puts rulesets together and in the order in which their tables can be created.
 *
 * @throws ProblemError for two of one name, tables or constraints that meet in the database, and a reference to a
 *   ruleset that is not among them, has no key, or has one of another kind
 */
export function schemaOf(rulesets: readonly AnyRuleset[]): Schema {
  const models = rulesets.map(({ model }) => model);
  const found: Problem[] = [];
  const byName = new Map<string, Known>();
  const inDatabase = new Map<string, string>();
  for (const model of models) {
    const twin = byName.get(model.ruleset);
    if (twin !== undefined) found.push(problems.rulesetTwice(model.place, model.ruleset, describe(twin.place)));
    byName.set(model.ruleset, model);
  }
  const meet = (name: string, what: string, place: Place) => {
    const other = inDatabase.get(name);
    if (other !== undefined && other !== what) found.push(problems.namesMeet(place, name, what, other));
    inDatabase.set(name, what);
  };
  for (const model of byName.values()) {
    meet(model.table.toLowerCase(), `the table of ${model.ruleset}`, model.place);
    // Engines keep the names of indexes in one list for all tables, those of other constraints in one a table.
    for (const { id, place, stage } of model.constraints) if (stage === 'lookup') meet(snakeCase(id), id, place);
    for (const name of Object.keys(model.indexes)) {
      const id = `${model.ruleset}.${name}`;
      meet(snakeCase(id), `the index ${id}`, model.place);
    }
    for (const field of allFields(model)) found.push(...misreferences(model, field, byName));
  }
  if (found.length > 0) throw new ProblemError(found);
  return byDependency([...byName.values()].map((model) => withKeys(model, byName)));
}

function misreferences(model: Known, field: Field, byName: ReadonlyMap<string, Known>): readonly Problem[] {
  const target = targetOf(field);
  if (target === null) return [];
  const there = byName.get(target.to);
  const name = `${model.ruleset}.${field.path}`;
  if (there === undefined) return [problems.referenceUnknown(field.place, name, target.to)];
  const key = there.key === null ? undefined : there.fields[there.key];
  if (key === undefined) return [problems.referenceKeyless(field.place, target.to)];
  const same = field.key === null || valueDomain(field.key) === valueDomain(key);
  return same ? [] : [problems.referenceKind(field.place, name, target.to, key.kind)];
}

/** References by name get the key that their target has. */
function withKeys(model: Known, byName: ReadonlyMap<string, Known>): Known {
  const keyOf = (target: string) => byName.get(target)?.key ?? '';
  const resolved = (field: Field<KindName>): Field<KindName> => ({
    ...field,
    facets: field.facets.key === '' ? { ...field.facets, key: keyOf(String(field.facets.to)) } : field.facets,
    fields: field.fields === null ? null : mapped(field.fields),
    item: field.item === null ? null : resolved(field.item),
  });
  const mapped = (fields: { readonly [name: string]: Field<KindName> }) =>
    Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, resolved(field)]));
  const predicateOf = (predicate: Predicate): Predicate =>
    predicate.op === 'refersTo' && predicate.key === '' ? { ...predicate, key: keyOf(predicate.to) } : predicate;
  const constraints = model.constraints.map((one): Constraint => ({ ...one, predicate: predicateOf(one.predicate) }));
  return { ...model, fields: mapped(model.fields), constraints };
}

/** The rulesets that a model refers to. */
export function targetsOf(model: Model): readonly string[] {
  return allFields(model).flatMap((field) => targetOf(field)?.to ?? []);
}

/** Of rulesets in a circle, the one comes first whose records may do without the others. */
function byDependency(models: Schema): Schema {
  const placed = new Set<Known>();
  /** Those that wait for rulesets that they refer to. */
  const waiting = new Set<Known>();
  const named = (targets: readonly string[]) =>
    targets.flatMap((target) => models.find(({ ruleset }) => ruleset === target) ?? []);
  const requires = (model: Known, other: Known, seen = new Set<Known>()): boolean => {
    if (seen.has(model)) return false;
    seen.add(model);
    const required = named(requiredTargetsOf(model));
    return required.includes(other) || required.some((one) => requires(one, other, seen));
  };
  const place = (model: Known) => {
    if (placed.has(model) || waiting.has(model)) return;
    waiting.add(model);
    for (const target of named(requiredTargetsOf(model))) place(target);
    for (const target of named(targetsOf(model))) if (![...waiting].some((one) => requires(target, one))) place(target);
    waiting.delete(model);
    placed.add(model);
  };
  models.forEach(place);
  return [...placed];
}

function describe(place: Place): string {
  return place.line === 0 ? 'an unknown place' : `${place.file}:${place.line}`;
}
