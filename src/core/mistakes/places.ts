import type { Schema } from '../declare/index.js';
import { isScalar, type KnownField, valueField } from '../kinds/index.js';
import { allFields, type Constraint, isSent, type Path } from '../model/index.js';
import { isLookup, sourcesOf } from '../operators/index.js';

type Model = Schema[number];

/** The fields with a value of their own that somebody sends and a server reads, those in lists too. */
export function valued(model: Model): readonly KnownField[] {
  return allFields(model).filter((field) => isSent(field) && isScalar(field) && field.enforcedIn.includes('server'));
}

/** The lists that somebody sends. */
export function listed(model: Model): readonly KnownField[] {
  return allFields(model).filter(
    (field) => isSent(field) && field.item !== null && field.enforcedIn.includes('server'),
  );
}

/** A field's facet of its own, with the constraint that it is. */
export function facetsNamed(model: Model, name: string) {
  return [...valued(model), ...listed(model)].flatMap((field) => {
    const value = valueField(field).facets[name];
    const constraint = model.constraints.find(({ id }) => id === idOf(model, field.path, name));
    return value === undefined || value === null || constraint === undefined ? [] : [{ field, value, constraint }];
  });
}

export function idOf({ ruleset }: Model, path: Path, facet: string): string {
  return `${ruleset}.${path}.${facet}`;
}

/** The named rules that say something of the record itself, as a server has it. */
export function namedRules(model: Model): readonly Constraint[] {
  // What only the page has, nobody behind it knows: a rule about that is never broken there.
  const served = new Set(
    allFields(model)
      .filter(({ enforcedIn }) => enforcedIn.includes('server'))
      .map(({ path }) => path),
  );
  return model.constraints.filter(
    ({ facet, predicate, subjects }) => !facet && !isLookup(predicate) && subjects.every((path) => served.has(path)),
  );
}

/** True where a column that is never NULL is worked out from a field alone. */
export function isSourceOfRequired({ path }: KnownField, model: Model): boolean {
  return Object.values(model.fields).some(({ name, derivation, optional, enforcedIn }) => {
    const isStored = derivation !== null && !optional && enforcedIn.includes('database');
    return isStored && sourcesOf(name, model).join() === path;
  });
}
