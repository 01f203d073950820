import { isScalar, type KindName } from '../kinds/index.js';
import { type Problem, ProblemError, problems } from '../messages/index.js';
import {
  allFields,
  type Constraint,
  type Field,
  type Model,
  type Path,
  type Place,
  type RuleFunction,
  stages,
  storages,
  storingFunction,
} from '../model/index.js';
import { mentionsOf } from '../operators/index.js';
import { fieldConstraints, keyConstraint, ownWordsOf, recordConstraints, unknownMessages } from './constraints.js';
import type { AnyDeclaration, Declaration } from './declaration.js';
import { brokenDefaults } from './defaults.js';
import type { Fields, TraitsOf } from './definition.js';
import { about, type Handle } from './expressions.js';
import { atTop, fieldOf } from './field.js';
import { handlesOf } from './handles.js';
import { meetings } from './meetings.js';
import { type Gathering, ruleConstraint } from './named-rules.js';
import { isName, labelOf, snakeCase } from './names.js';
import { placeOfCaller } from './place.js';
import type { Ruleset } from './types.js';

type RequiredNames<F> = { [K in keyof F]: 'optional' extends TraitsOf<F[K]> ? never : K }[keyof F] & string;
/** Names that every ruleset has of its own. */
const reserved = ['type', 'required', 'canonical', 'keys', 'limits', 'inUse', 'refused'];

/**
 * Declares one record kind. What comes out is plain data beside the types: everything else is made from it.
 *
 * @param name the ruleset's name: the first part of every id, and the table's name unless `table` says another
 * @throws ProblemError with every problem found: a name that can't be used or that meets another in the database, a
 *   pattern that can't be read, an option that the kind hasn't got, a rule that blames a field it doesn't mention
 */
export function ruleset<
  const Name extends string,
  const F extends Fields,
  const Key extends RequiredNames<F> | null = null,
>(name: Name, declaration: Declaration<F, Key>): Ruleset<Name, F, Key> {
  // Without its types a rules function takes any handles: `lower` makes the ones that it is given.
  return rulesetAt(name, declaration as unknown as AnyDeclaration, placeOfCaller(1)) as Ruleset<Name, F, Key>;
}

/** A ruleset of a declaration whose types have been checked already. */
export function rulesetAt(
  name: string,
  declaration: AnyDeclaration,
  place: Place,
): Ruleset<string, Fields, string | null> {
  const found: Problem[] = [];
  const model = lower(name, declaration, place, found);
  if (found.length > 0) throw new ProblemError(found);
  return { echoRule: 'ruleset', name, key: model.key, fields: declaration.fields, declaration, model };
}

type Known = { [name: string]: Field<KindName> };

function lower(name: string, declaration: AnyDeclaration, place: Place, found: Problem[]): Model<KindName> {
  if (!isName(name)) found.push(problems.nameInvalid(place, 'ruleset', name));
  if (Object.keys(declaration.fields).length === 0) found.push(problems.fieldsEmpty(place, name));
  const fields: Known = {};
  for (const [path, definition] of Object.entries(declaration.fields)) {
    if (!isName(path)) found.push(problems.nameInvalid(definition.place, 'field', path));
    else fields[path] = fieldOf(path, definition, found, atTop(declaration.storage));
  }
  derive(declaration, fields, name, place, found);
  const key = knownName('key', declaration.key, fields, place, found);
  const keyed = key === null ? undefined : fields[key];
  if (keyed?.optional === true) found.push(problems.keyOptional(keyed.place, keyed.path));
  if (keyed !== undefined && !isScalar(keyed)) found.push(problems.keyComposite(keyed.place, keyed.path));
  found.push(...zoneProblems(declaration.zone, place), ...secretProblems(fields));
  if (declaration.storage !== undefined && !storages.includes(declaration.storage))
    found.push(problems.facetInvalid(place, `${name} storage`, storages.join(' or '), String(declaration.storage)));
  if (found.length === 0) found.push(...brokenDefaults(fields));
  const gathering: Gathering = { found, functions: {} };
  // A field that is wrong already would make its rules wrong too: they are not judged before it is mended.
  const rules = found.length > 0 ? [] : namedRules(name, declaration, fields, place, gathering);
  conceal(fields, rules);
  const words = ownWordsOf(declaration.fields);
  // What is wrong in a field's options may make its rules impossible to write.
  const own = found.length > 0 ? [] : fieldConstraints(name, fields, words);
  const keys = keyed === undefined ? [] : [keyConstraint(name, keyed, words)];
  const constraints = inOrder(allFields({ fields }), [...recordConstraints(name, place), ...own, ...keys, ...rules]);
  if (found.length === 0) found.push(...unknownMessages(declaration.fields, name, constraints));
  found.push(...meetings(declaration.table, fields, constraints, key, place));
  return {
    ruleset: name,
    table: declaration.table ?? snakeCase(name),
    label: declaration.label ?? labelOf(name),
    place,
    key,
    called: knownName('called', declaration.called, fields, place, found),
    zone: declaration.zone ?? 'UTC',
    ignore: declaration.ignore ?? [],
    undeclared: declaration.undeclared ?? 'refuse',
    fields,
    constraints,
    functions: { ...gathering.functions, ...storing(declaration) },
    indexes: found.length > 0 ? {} : indexesOf(declaration, fields, name, place),
  };
}

/** The handles that a function of the declaration is given; a name that is no field's is told. */
function it(fields: Known, ruleset: string, place: Place): never {
  return handlesOf(fields, (name) => {
    throw new ProblemError([problems.handleUnknown(place, ruleset, name, Object.keys(fields).join(', '))]);
  }) as never;
}

/** What derived fields are worked out by goes into them. */
function derive(declaration: AnyDeclaration, fields: Known, ruleset: string, place: Place, found: Problem[]): void {
  const terms = found.length > 0 ? {} : (declaration.derived?.(it(fields, ruleset, place)) ?? {});
  for (const [name, term] of Object.entries(terms)) {
    const field = fields[name];
    const from = mentionsOf(term[about].term);
    if (field?.generated !== 'derived') found.push(problems.derivedUnmarked(field?.place ?? place, name));
    else if (from.length === 0 || from.some((path) => path.includes('[]') || fields[path]?.generated != null))
      found.push(problems.derivedFrom(field.place, name, from.join(', ')));
    else fields[name] = { ...field, derivation: term[about].term };
  }
  if (found.length > 0) return;
  for (const { path, generated, derivation, place: at } of Object.values(fields))
    if (generated === 'derived' && derivation === null) found.push(problems.derivedMissing(at, path));
}

function indexesOf(declaration: AnyDeclaration, fields: Known, ruleset: string, place: Place): Model['indexes'] {
  const named = Object.entries(declaration.indexes?.(it(fields, ruleset, place)) ?? {});
  return Object.fromEntries(named.map(([name, of]) => [name, of.map((handle: Handle) => handle[about].path)]));
}

/** What repeats a secret in a form is concealed with it. */
function conceal(fields: Known, rules: readonly Constraint[]): void {
  for (const { predicate, subjects } of rules) {
    const [one, other] = subjects.map((path) => fields[path]);
    if (predicate.op !== 'compare' || predicate.by !== '=' || one === undefined || other === undefined) continue;
    for (const [first, second] of [
      [one, other],
      [other, one],
    ] as const)
      if (first.storedAs !== null && second.enforcedIn.join() === 'client')
        fields[second.path] = { ...second, concealed: true };
  }
}

/** What makes the stored form of each secret. */
function storing(declaration: AnyDeclaration): Model['functions'] {
  const functions = Object.entries(declaration.fields).flatMap(([name, { options }]) => {
    const by = (options.secret as { readonly by?: RuleFunction } | undefined)?.by;
    return by === undefined ? [] : [[storingFunction(name), by] as const];
  });
  return Object.fromEntries(functions);
}

function zoneProblems(zone: string | undefined, place: Place): readonly Problem[] {
  if (zone === undefined) return [];
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return [];
  } catch {
    return [problems.zoneUnknown(place, zone)];
  }
}

function secretProblems(fields: Known): readonly Problem[] {
  return Object.values(fields).flatMap(({ path, place, storedAs, optional }) => {
    const holder = storedAs === null ? undefined : fields[storedAs];
    if (storedAs === null) return [];
    if (holder === undefined || holder.enforcedIn.join() !== 'database')
      return [problems.secretHolder(place, path, storedAs)];
    if (!optional || holder.optional) return [];
    return [
      problems.facetsClash(place, `${path} optional`, `a required ${storedAs}`, 'without it nothing is stored there'),
    ];
  });
}

/** A field that an option names, or null with the problem added. */
function knownName(
  option: string,
  name: string | null | undefined,
  fields: Known,
  place: Place,
  found: Problem[],
): Path | null {
  if (name === undefined || name === null || Object.hasOwn(fields, name)) return name ?? null;
  found.push(problems.keyUnknown(place, option, name, Object.keys(fields).join(', ')));
  return null;
}

function namedRules(
  ruleset: string,
  declaration: AnyDeclaration,
  fields: Known,
  at: Place,
  gathering: Gathering,
): readonly Constraint[] {
  const { found } = gathering;
  const rules = declaration.rules?.(it(fields, ruleset, at)) ?? {};
  return Object.entries(rules).flatMap(([name, said]) => {
    const place = said?.place ?? at;
    if (!isName(name)) found.push(problems.nameInvalid(place, 'rule', name));
    else if (reserved.includes(name)) found.push(problems.nameReserved(place, name));
    else if (
      typeof said !== 'object' ||
      said === null ||
      !('lookup' in said || 'holds' in said || 'expression' in said)
    )
      found.push(problems.ruleShape(place, name));
    else return ruleConstraint(ruleset, name, said, fields, gathering) ?? [];
    return [];
  });
}

/** The order in which violations are told: the record, then its fields by stage, then rules, then look-ups. */
function inOrder(fields: readonly Field[], constraints: readonly Constraint[]): readonly Constraint[] {
  const order = new Map([['', 0], ...fields.map(({ path }, index) => [path, index + 1] as const)]);
  const rank = ({ facet, owner, stage }: Constraint) => {
    if (stage === 'lookup') return [2, 0, 0];
    return facet ? [0, order.get(owner) ?? 0, stages.indexOf(stage)] : [1, 0, 0];
  };
  return constraints
    .map((constraint, index) => ({ constraint, key: [...rank(constraint), index] }))
    .sort((a, b) => a.key.map((part, index) => part - (b.key[index] ?? 0)).find((sign) => sign !== 0) ?? 0)
    .map(({ constraint }) => constraint);
}
