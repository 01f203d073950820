import { facetRules, type KindName, kindOf, valueDomain, valueField } from '../kinds/index.js';
import { type Problem, problems, violationMessage } from '../messages/index.js';
import type { Constraint, Field, Path, Place, Predicate, Stage } from '../model/index.js';
import { mentions } from '../operators/index.js';
import type { AnyDefinition } from './definition.js';
import { beginsWith } from './expressions.js';
import { labelOf, snakeCase } from './names.js';
import { facetsOf } from './options.js';
import type { AnyRule } from './rules.js';

/** A definition under its name. A reference's item is the key's field, at the reference's place and path. */
export function fieldOf(path: Path, definition: AnyDefinition, found: Problem[]): Field<KindName> {
  const { options, place, item } = definition;
  const label = typeof options.label === 'string' ? options.label : labelOf(path);
  const column = typeof options.column === 'string' ? options.column : snakeCase(path);
  const outer = { path, place, label, optional: options.optional === true, column };
  return {
    kind: definition.definition,
    ...outer,
    facets: facetsOf(path, definition, found),
    item: item === null ? null : readdressed(fieldOf(path, item, []), outer),
  };
}

type Address = Pick<Field, 'path' | 'place' | 'label' | 'optional' | 'column'>;

/** A key's field at the place of the reference that holds it; a key that is a reference itself, all the way down. */
function readdressed(field: Field<KindName>, address: Address): Field<KindName> {
  return { ...field, ...address, item: field.item === null ? null : readdressed(field.item, address) };
}

/** The constraints of one field: presence first, then its form, then comparisons; look-ups come last of all. */
export function fieldConstraints(ruleset: string, field: Field): readonly Constraint[] {
  const of = field.path;
  const make = (facet: string, stage: Stage, predicate: Predicate, limit = '', expects = ''): Constraint => ({
    id: `${ruleset}.${of}.${facet}`,
    place: field.place,
    stage,
    subjects: [of],
    blame: of,
    facet: true,
    predicate,
    message: violationMessage(facet, valueDomain(field), { label: field.label, limit, expects }),
  });
  const { expects } = kindOf(valueField(field));
  return [
    ...(field.optional ? [] : [make('required', 'presence', { op: 'given', of })]),
    make('type', 'form', { op: 'typed', of }, '', expects),
    ...facetRules(field).map(({ facet, stage, predicate, limit }) =>
      make(facet, stage, predicate, limit === undefined ? '' : String(limit)),
    ),
  ];
}

/** What holds of the record as a whole: it is a record, and has no keys but the declared ones. */
export function recordConstraints(ruleset: string, place: Place, keys: readonly Path[]): readonly Constraint[] {
  const whole = { place, subjects: [], blame: '', facet: true, stage: 'form' as const };
  return [
    {
      ...whole,
      id: `${ruleset}.type`,
      predicate: { op: 'typed', of: '' },
      message: violationMessage('type', 'record', { label: '' }),
    },
    {
      ...whole,
      id: `${ruleset}.keys`,
      predicate: { op: 'closed', keys },
      message: violationMessage('keys', '', { label: '' }),
    },
  ];
}

/** The key is unique too; its rule is a facet of the field. */
export function keyConstraint(ruleset: string, field: Field): Constraint {
  return {
    id: `${ruleset}.${field.path}.unique`,
    place: field.place,
    stage: 'lookup',
    subjects: [field.path],
    blame: field.path,
    facet: true,
    predicate: { op: 'unique', of: [field.path] },
    message: violationMessage('unique', '', { label: field.label }),
  };
}

/** A named rule. Problems (a foreign field, a blamed field that it does not mention) are added to `found`. */
export function ruleConstraint(
  ruleset: string,
  name: string,
  said: AnyRule,
  fields: { readonly [name: string]: Field },
  found: Problem[],
): Constraint | null {
  const predicate = 'lookup' in said ? said.lookup : 'holds' in said ? said.holds.expression : said.expression;
  const { place } = said;
  const subjects = [...new Set(mentions(predicate))];
  const foreign = subjects.find((path) => !Object.hasOwn(fields, path));
  if (foreign !== undefined) {
    found.push(problems.ruleForeign(place, name, foreign));
    return null;
  }
  const own = 'holds' in said ? said : null;
  const blame = own?.blame ?? beginsWith(predicate);
  if (!subjects.includes(blame)) {
    found.push(problems.blameUnmentioned(place, name, blame, subjects.join(', ')));
    return null;
  }
  const labelled = (path: Path) => fields[path]?.label ?? path;
  const words = 'lookup' in said ? (subjects.length > 1 ? 'combination' : 'unique') : 'rule';
  const label = words === 'combination' ? subjects.map(labelled).join(' and ') : labelled(blame);
  return {
    id: `${ruleset}.${name}`,
    place,
    stage: 'lookup' in said ? 'lookup' : 'comparison',
    subjects,
    blame,
    facet: false,
    predicate,
    message: own?.message ?? violationMessage(words, '', { label, limit: labelOf(name).toLowerCase() }),
  };
}
