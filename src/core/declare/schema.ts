import { type KindName, targetOf } from '../kinds/index.js';
import { type Problem, ProblemError, problems } from '../messages/index.js';
import type { Model, Place } from '../model/index.js';
import { snakeCase } from './names.js';
import type { AnyRuleset } from './types.js';

/** Rulesets that live in one database, each after those that it refers to. */
export type Schema = readonly Model<KindName>[];

/**
 * Puts rulesets together and in the order in which their tables can be created.
 *
 * @throws ProblemError for two of one name, tables or constraints that meet in the database, and a reference to a
 *   ruleset that is not among them
 */
export function schemaOf(rulesets: readonly AnyRuleset[]): Schema {
  const models = rulesets.map(({ model }) => model);
  const found: Problem[] = [];
  const byName = new Map<string, Model<KindName>>();
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
    for (const field of Object.values(model.fields)) {
      const target = targetOf(field);
      if (target !== null && !byName.has(target.to))
        found.push(problems.referenceUnknown(field.place, `${model.ruleset}.${field.path}`, target.to));
    }
  }
  if (found.length > 0) throw new ProblemError(found);
  return byDependency([...byName.values()]);
}

/** The rulesets that a model refers to. */
export function targetsOf(model: Model): readonly string[] {
  return Object.values(model.fields).flatMap((field) => targetOf(field)?.to ?? []);
}

function byDependency(models: Schema): Schema {
  const placed: Model<KindName>[] = [];
  const place = (model: Model<KindName>) => {
    if (placed.includes(model)) return;
    for (const target of targetsOf(model)) {
      const found = models.find(({ ruleset }) => ruleset === target);
      if (found !== undefined) place(found);
    }
    placed.push(model);
  };
  models.forEach(place);
  return placed;
}

function describe(place: Place): string {
  return place.line === 0 ? 'an unknown place' : `${place.file}:${place.line}`;
}
