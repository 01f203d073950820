import { facetRules, isScalar, secondsOf, valueDomain, valueField } from '../kinds/index.js';
import { english, fillIn, type Problem, phrase, problems } from '../messages/index.js';
import {
  allFields,
  type Constraint,
  type Enforcer,
  enforcers,
  type Field,
  type Path,
  type Place,
  type Predicate,
  type Stage,
  secretIn,
} from '../model/index.js';
import { mentionsOf } from '../operators/index.js';
import type { AnyDefinition } from './definition.js';

/** The words that a declaration gives for a facet of its own, by path and facet. */
export type OwnWords = (path: Path, facet: string) => string | null;

/** Reads the `messages` of definitions, at any depth. */
export function ownWordsOf(definitions: { readonly [name: string]: AnyDefinition }): OwnWords {
  const found = new Map<string, unknown>();
  const visit = (path: Path, { options, fields, item }: AnyDefinition): void => {
    for (const [facet, words] of Object.entries(options.messages ?? {})) found.set(`${path}.${facet}`, words);
    for (const [name, inner] of Object.entries(fields ?? {})) visit(`${path}.${name}`, inner);
    if (item !== null) visit(`${path}[]`, item);
  };
  for (const [name, definition] of Object.entries(definitions)) visit(name, definition);
  return (path, facet) => {
    const words = found.get(`${path}.${facet}`);
    return typeof words === 'string' ? words : null;
  };
}

/** Words of definitions for rules that their fields have not got. */
export function unknownMessages(
  definitions: { readonly [name: string]: AnyDefinition },
  ruleset: string,
  constraints: readonly Constraint[],
): readonly Problem[] {
  const visit = (path: Path, { options, fields, item, place }: AnyDefinition): readonly Problem[] => {
    const prefix = `${ruleset}.${path}.`;
    const own = constraints.flatMap(({ id }) => (id.startsWith(prefix) ? [id.slice(prefix.length)] : []));
    const known = own.filter((facet) => !/[.[]/.test(facet));
    const found = Object.keys(options.messages ?? {})
      .filter((facet) => !known.includes(facet))
      .map((facet) => problems.messageUnknown(place, path, facet, known.join(', ')));
    const within = Object.entries(fields ?? {}).flatMap(([name, inner]) => visit(`${path}.${name}`, inner));
    return [...found, ...within, ...(item === null ? [] : visit(`${path}[]`, item))];
  };
  return Object.entries(definitions).flatMap(([name, definition]) => visit(name, definition));
}

interface Said {
  readonly keys: readonly string[];
  readonly label: string;
  readonly limit: string;
}

/** A message in the declaration's own words, or by the entries of a catalogue. */
export function worded(said: Said, own: string | null): Pick<Constraint, 'message' | 'phrase'> {
  if (own === null) return { message: phrase(english, said), phrase: said };
  const { label, limit } = said;
  return { message: fillIn(own, label, limit), phrase: null };
}

/** The constraints of one field, presence first, then its form, then comparisons; look-ups come last of all. */
function ownConstraints(ruleset: string, field: Field, wordsOf: OwnWords): readonly Constraint[] {
  const of = field.path;
  const { kind } = valueField(field);
  const domain = valueDomain(field);
  const operands = field.derivation === null ? [of] : mentionsOf(field.derivation);
  const make = (
    facet: string,
    stage: Stage,
    predicate: Predicate,
    more: Partial<Constraint> = {},
    limit = '',
  ): Constraint => {
    const finer = secondsOf(valueField(field)) === 'none' ? [`${facet}.minutes`] : [];
    const keys = [...finer, `${facet}.${kind}`, `${facet}.${domain}`, `${facet}.${limit}`, facet];
    return {
      id: `${ruleset}.${of}.${facet}`,
      place: field.place,
      stage,
      subjects: [...new Set(operands)],
      blame: operands[0] ?? of,
      facet: true,
      owner: of,
      over: null,
      predicate,
      enforcedIn: enforcersOf(field, predicate),
      ...worded({ keys, label: labelAt(field, more.blame ?? of), limit }, wordsOf(of, facet)),
      ...more,
    };
  };
  const presence = isScalar(field) && !field.optional;
  // What is worked out is in its kind's form by construction.
  const derived = field.derivation !== null;
  return [
    ...(presence ? [make('required', 'presence', { op: 'given', of })] : []),
    ...(derived ? [] : [make('type', 'form', { op: 'typed', of })]),
    ...facetRules(field)
      .filter(({ predicate }) => !derived || predicate.op !== 'canonical')
      .map(({ facet, stage, predicate, limit, blame, owner }) =>
        make(
          facet,
          stage,
          predicate,
          { ...(blame === undefined ? {} : { blame, subjects: [blame] }), ...(owner === undefined ? {} : { owner }) },
          limit === undefined ? '' : String(limit),
        ),
      ),
  ];
}

/** The label of a field, or of the one within its entries that a facet blames. */
function labelAt({ item, path, label }: Field, blame: Path): string {
  if (item === null || blame === path) return label;
  const inner = Object.values(item.fields ?? {}).find((field) => field.path === blame);
  return inner?.label ?? item.label;
}

/** A field that nobody sends, and that is not worked out from what is sent, is the database's alone. */
function enforcersOf(field: Field, predicate: Predicate): readonly Enforcer[] {
  if (predicate.op === 'canonical') return field.enforcedIn;
  return field.generated === null || field.generated === 'derived'
    ? field.enforcedIn
    : field.enforcedIn.filter((one) => one === 'database');
}

/** The constraints of all fields, records before what is in them and lists before their items. */
export function fieldConstraints(
  ruleset: string,
  fields: { readonly [name: string]: Field },
  wordsOf: OwnWords,
): readonly Constraint[] {
  return allFields({ fields }).flatMap((field) => {
    const own = ownConstraints(ruleset, field, wordsOf);
    const secret = secretIn(field.path, fields);
    if (secret !== undefined) return asSecret(own, field, secret);
    const holder = field.storedAs === null ? undefined : fields[field.storedAs];
    return holder?.optional === false ? own.map(alsoStored) : own;
  });
}

/**
 * The constraints of a field that holds a secret: they are reported at the secret, as is a
 * missing stored form.
 */
function asSecret(own: readonly Constraint[], { path }: Field, secret: Field): readonly Constraint[] {
  return own
    .filter(({ predicate, owner }) => !(predicate.op === 'given' && owner === path && !secret.optional))
    .map((one) => ({ ...one, blame: secret.path }));
}

/** Without a secret there is nothing to store, which the column of its stored form refuses. */
function alsoStored(one: Constraint): Constraint {
  return one.predicate.op === 'given' ? { ...one, enforcedIn: enforcers } : one;
}

/** What holds of the record as a whole: it is a record, it is not too large, and it has no keys but the declared ones. */
export function recordConstraints(ruleset: string, place: Place): readonly Constraint[] {
  const whole = (facet: string, key: string, predicate: Predicate): Constraint => ({
    id: `${ruleset}.${facet}`,
    place,
    stage: 'form',
    subjects: [],
    blame: '',
    facet: true,
    owner: '',
    over: null,
    predicate,
    enforcedIn: enforcers,
    ...worded({ keys: [key], label: '', limit: '' }, null),
  });
  return [
    whole('type', 'type.whole', { op: 'typed', of: '' }),
    whole('limits', 'limits', { op: 'bounded' }),
    whole('keys', 'keys', { op: 'closed' }),
  ];
}

/** The key is unique too; its rule is a facet of the field. */
export function keyConstraint(ruleset: string, field: Field, wordsOf: OwnWords): Constraint {
  return {
    id: `${ruleset}.${field.path}.unique`,
    place: field.place,
    stage: 'lookup',
    subjects: [field.path],
    blame: field.path,
    facet: true,
    owner: field.path,
    over: null,
    predicate: { op: 'unique', of: [field.path], fold: 'none', among: null },
    enforcedIn: field.enforcedIn,
    ...worded({ keys: ['unique'], label: field.label, limit: '' }, wordsOf(field.path, 'unique')),
  };
}
