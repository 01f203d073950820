import type { KindName } from '../kinds/index.js';
import { kindOf, valueDomain } from '../kinds/index.js';
import { type Problem, ProblemError, problems } from '../messages/index.js';
import type { Constraint, Field, Model, Path, Place } from '../model/index.js';
import { stages, utf8Length } from '../model/index.js';
import type { Fields, IsOptional } from './definition.js';
import { type HandlesOf, handleOf } from './expressions.js';
import { fieldConstraints, fieldOf, keyConstraint, recordConstraints, ruleConstraint } from './lower.js';
import { isName, labelOf, snakeCase } from './names.js';
import { placeOfCaller } from './place.js';
import type { AnyRule } from './rules.js';
import type { Ruleset } from './types.js';

type RequiredNames<F> = { [K in keyof F]: IsOptional<F[K]> extends true ? never : K }[keyof F] & string;

export interface Declaration<F extends Fields, Key extends string | null> {
  readonly fields: F;
  /** The field that names a record to the database; without it the table counts an `id` of its own. */
  readonly key?: Key;
  /** The field that names a record to a person. */
  readonly called?: keyof F & string;
  readonly table?: string;
  readonly label?: string;
  /** Named rules over the fields; every name becomes an error code and a constraint's name. */
  readonly rules?: (it: HandlesOf<F>) => { readonly [name: string]: AnyRule };
}

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
  const place = placeOfCaller(1);
  const found: Problem[] = [];
  // Without its types the rules function takes any handles: `lower` makes the ones that it is given.
  const model = lower(name, declaration as unknown as Declaration<Fields, string | null>, place, found);
  if (found.length > 0) throw new ProblemError(found);
  const { fields } = declaration;
  return { echoRule: 'ruleset', name, key: (model.key ?? null) as Key, fields, model };
}

function lower(
  name: string,
  declaration: Declaration<Fields, string | null>,
  place: Place,
  found: Problem[],
): Model<KindName> {
  if (!isName(name)) found.push(problems.nameInvalid(place, 'ruleset', name));
  const names = Object.keys(declaration.fields);
  if (names.length === 0) found.push(problems.fieldsEmpty(place, name));
  const fields: { [name: string]: Field<KindName> } = {};
  for (const [path, definition] of Object.entries(declaration.fields)) {
    if (!isName(path)) found.push(problems.nameInvalid(definition.place, 'field', path));
    else fields[path] = fieldOf(path, definition, found);
  }
  const key = knownName('key', declaration.key, fields, place, found);
  const keyed = key === null ? undefined : fields[key];
  if (keyed?.optional === true) found.push(problems.keyOptional(keyed.place, keyed.path));
  const table = declaration.table ?? snakeCase(name);
  // A field that is wrong already would make its rules wrong too: they are not judged before it is mended.
  const rules = found.length > 0 ? [] : namedRules(name, declaration, fields, place, found);
  const constraints = inOrder([
    ...recordConstraints(name, place, names),
    ...Object.values(fields).flatMap((field) => fieldConstraints(name, field)),
    ...(keyed === undefined ? [] : [keyConstraint(name, keyed)]),
    ...rules,
  ]);
  found.push(...meetings(declaration.table, fields, constraints, key, place));
  return {
    ruleset: name,
    table,
    label: declaration.label ?? labelOf(name),
    place,
    key,
    called: knownName('called', declaration.called, fields, place, found),
    fields,
    constraints,
  };
}

/** A field that an option names, or null with the problem added. */
function knownName(
  option: string,
  name: string | null | undefined,
  fields: { readonly [name: string]: Field },
  place: Place,
  found: Problem[],
): Path | null {
  if (name === undefined || name === null || Object.hasOwn(fields, name)) return name ?? null;
  found.push(problems.keyUnknown(place, option, name, Object.keys(fields).join(', ')));
  return null;
}

function namedRules(
  ruleset: string,
  declaration: Declaration<Fields, string | null>,
  fields: { readonly [name: string]: Field },
  at: Place,
  found: Problem[],
): readonly Constraint[] {
  const handles = Object.values(fields).map((field) => [
    field.path,
    handleOf(field.path, kindOf(field).domain, valueDomain(field)),
  ]);
  const rules = declaration.rules?.(Object.fromEntries(handles)) ?? {};
  return Object.entries(rules).flatMap(([name, said]) => {
    const place = said?.place ?? at;
    if (!isName(name)) found.push(problems.nameInvalid(place, 'rule', name));
    else if (['type', 'required', 'canonical', 'keys'].includes(name)) found.push(problems.nameReserved(place, name));
    else if (
      typeof said !== 'object' ||
      said === null ||
      !('lookup' in said || 'holds' in said || 'expression' in said)
    )
      found.push(problems.ruleShape(place, name));
    else return ruleConstraint(ruleset, name, said, fields, found) ?? [];
    return [];
  });
}

/** The order in which violations are told: facets by field and stage, then rules, then look-ups. */
function inOrder(constraints: readonly Constraint[]): readonly Constraint[] {
  const fields = [...new Set(constraints.filter(({ facet }) => facet).map(({ blame }) => blame))];
  const rank = ({ facet, blame, stage }: Constraint) => {
    if (stage === 'lookup') return [2, 0, 0];
    return facet ? [0, fields.indexOf(blame), stages.indexOf(stage)] : [1, 0, 0];
  };
  return constraints
    .map((constraint, index) => ({ constraint, key: [...rank(constraint), index] }))
    .sort((a, b) => a.key.map((part, index) => part - (b.key[index] ?? 0)).find((sign) => sign !== 0) ?? 0)
    .map(({ constraint }) => constraint);
}

/** Names that would meet in the database, or that some database refuses. */
function meetings(
  declaredTable: string | undefined,
  fields: { readonly [name: string]: Field },
  constraints: readonly Constraint[],
  key: Path | null,
  place: Place,
): readonly Problem[] {
  const columns = new Map<string, string>(key === null ? [['id', 'the counting key of a ruleset without key']] : []);
  const found: Problem[] = [];
  if (declaredTable !== undefined && !isColumn(declaredTable))
    found.push(problems.columnInvalid(place, 'table', declaredTable));
  for (const { column, path, place: at } of Object.values(fields)) {
    const other = columns.get(column.toLowerCase());
    if (!isColumn(column)) found.push(problems.columnInvalid(at, 'column', column));
    if (other !== undefined) found.push(problems.namesMeet(at, column, `"${path}"`, other));
    columns.set(column.toLowerCase(), `"${path}"`);
  }
  const ids = new Map<string, string>();
  for (const { id, place: at } of constraints) {
    const other = ids.get(snakeCase(id));
    if (other !== undefined) found.push(problems.namesMeet(at, snakeCase(id), id, other));
    ids.set(snakeCase(id), id);
  }
  return found;
}

/** PostgreSQL cuts names over 63 bytes without an error; no engine takes a null character or an empty name. */
function isColumn(name: string): boolean {
  const bytes = utf8Length(name);
  return bytes > 0 && bytes <= 63 && !/[\u0000\ufffd\p{Surrogate}]/u.test(name);
}
