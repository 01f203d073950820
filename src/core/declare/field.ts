import { type KindName, kinds } from '../kinds/index.js';
import { type Problem, problems } from '../messages/index.js';
import {
  type Enforcer,
  enforcers,
  type Field,
  type Generation,
  type Storage,
  storages,
  type Value,
} from '../model/index.js';
import type { AnyDefinition } from './definition.js';
import { isName, labelOf, snakeCase } from './names.js';
import { facetsOf } from './options.js';

type Known = Field<KindName>;

/** Where a definition stands: the path that leads to it, and what its column's name begins with. */
interface Within {
  readonly path: string;
  readonly column: string;
  readonly enforcedIn: readonly Enforcer[] | null;
  readonly storage: Storage;
}

/** Where the fields of a ruleset stand that says how they are stored, or doesn't. */
export function atTop(storage: Storage = 'natural'): Within {
  return { path: '', column: '', enforcedIn: null, storage };
}

/** A definition under its name, with all that is within it. Problems are added to `found`. */
export function fieldOf(name: string, definition: AnyDefinition, found: Problem[], within: Within): Known {
  const path = within.path === '' ? name : `${within.path}.${name}`;
  return lowered(definition, found, {
    path,
    name,
    label: textOf(definition.options.label) ?? labelOf(name),
    column: textOf(definition.options.column) ?? `${within.column}${snakeCase(name)}`,
    enforcedIn: enforcersOf(definition, within),
    storage: storageOf(definition, within.storage),
  });
}

type Named = Pick<Known, 'path' | 'name' | 'label' | 'column' | 'enforcedIn' | 'storage'>;

function lowered(definition: AnyDefinition, found: Problem[], named: Named): Known {
  const { options, place, definition: kind } = definition;
  const outer = { ...named, place, optional: options.optional === true };
  const { key, item } = definition;
  const secret = options.secret as { readonly storedAs?: unknown } | undefined;
  const field: Known = {
    kind,
    ...outer,
    hint: textOf(options.hint),
    facets: facetsOf(named.path, definition, found),
    default: (options.default ?? null) as Value,
    generated: (options.generated ?? null) as Generation | null,
    derivation: null,
    storedAs: typeof secret?.storedAs === 'string' ? secret.storedAs : null,
    concealed: secret !== undefined,
    columnForm: null,
    fields: definition.fields === null ? null : inner(definition.fields, found, outer, options.keptAs === 'table'),
    item: item === null ? null : itemOf(item, found, outer),
    key: key === null ? null : readdressed(lowered(key, [], named), { ...outer, default: null, generated: null }),
  };
  found.push(...misfits(field));
  if (options.enforcedIn !== undefined && /[.[]/.test(named.path))
    found.push(
      problems.facetsClash(place, `${named.path} enforcedIn`, 'a record or a list', 'what is in it is where it is'),
    );
  return field;
}

/** A record's columns begin with its own name, where they stand in the table that it is in. */
function inner(
  fields: NonNullable<AnyDefinition['fields']>,
  found: Problem[],
  { path, column, enforcedIn, storage }: Named,
  isTable: boolean,
) {
  const prefix = isTable || column === '' ? '' : `${column}_`;
  const within = { path, column: prefix, enforcedIn, storage };
  const made: { [name: string]: Known } = {};
  for (const [name, definition] of Object.entries(fields)) {
    if (!isName(name)) found.push(problems.nameInvalid(definition.place, 'field', name));
    else made[name] = fieldOf(name, definition, found, within);
  }
  return made;
}

/** An item is always there: a list that is not to have it does not. Its columns are those of a table of their own. */
function itemOf(item: AnyDefinition, found: Problem[], { path, label, enforcedIn, storage }: Named): Known {
  return lowered(item, found, {
    path: `${path}[]`,
    name: '',
    label: textOf(item.options.label) ?? `${label} entry`,
    column: textOf(item.options.column) ?? (item.fields === null ? 'item' : ''),
    enforcedIn,
    storage: storageOf(item, storage),
  });
}

function storageOf({ options }: AnyDefinition, around: Storage): Storage {
  return storages.find((one) => one === options.storage) ?? around;
}

function enforcersOf({ options }: AnyDefinition, { path, enforcedIn }: Within): readonly Enforcer[] {
  if (path === '' && Array.isArray(options.enforcedIn)) return options.enforcedIn as readonly Enforcer[];
  // What is stored of a secret is another field.
  if (options.secret !== undefined) return ['client', 'server'];
  return enforcedIn ?? enforcers;
}

type Address = Omit<Partial<Known>, 'kind' | 'facets' | 'fields' | 'item' | 'key'>;

/** A key's field at the place of the reference that holds it; a key that is a reference itself, all the way down. */
function readdressed(field: Known, address: Address): Known {
  return { ...field, ...address, key: field.key === null ? null : readdressed(field.key, address) };
}

/** Options that don't go with the kind, or with where the field stands. */
function misfits({
  path,
  place,
  optional,
  generated,
  kind,
  facets,
  item,
  default: filled,
  ...field
}: Known): readonly Problem[] {
  const found: Problem[] = [];
  const clash = (what: string, other: string, why: string) => found.push(problems.facetsClash(place, what, other, why));
  const isInner = /[.[]/.test(path);
  if (path.endsWith('[]') && facets.keptAs === 'table' && item === null)
    clash(`${path} keptAs: 'table'`, 'a list', 'its items have a table already');
  if (optional && path.endsWith('[]')) clash(`${path} optional`, 'a list', 'a list has no absent items');
  if (optional && item !== null) clash(`${path} optional`, 'a list', 'a list is never absent, but perhaps empty');
  if (isInner && generated !== null) clash(`${path} generated`, 'a record or a list', 'what is in it is sent with it');
  if (isInner && field.storedAs !== null)
    clash(`${path} secret`, 'a record or a list', 'what is in it is stored with it');
  if (facets.onDelete === 'clear' && !optional)
    clash(`${path} onDelete: 'clear'`, 'a required field', 'nothing may be left behind');
  if (generated !== null && filled !== null) clash(`${path} generated`, 'default', 'nobody sends it');
  if (field.storedAs !== null && kinds[kind].domain !== 'text') clash(`${path} secret`, kind, 'a secret is text');
  for (const facet of ['distinct', 'key'] as const) {
    const by = facets[facet];
    if (item !== null && typeof by === 'string' && !Object.hasOwn(item.fields ?? {}, by))
      found.push(
        problems.facetInvalid(place, `${path}.${facet}`, 'the name of a field of the items', JSON.stringify(by)),
      );
  }
  if (generated !== null && !(fillers[generated] ?? []).includes(kind))
    clash(`${path} generated: '${generated}'`, kind, 'it gives another kind of value');
  return found;
}

const scalars = Object.entries(kinds).flatMap(([kind, { domain }]) =>
  domain === 'record' || domain === 'list' || domain === 'reference' ? [] : [kind],
);
/** Which kinds each way of filling gives values of. */
const fillers: { readonly [G in Generation]: readonly string[] } = {
  identity: ['integer'],
  uuid: ['uuid'],
  created: ['timestamp'],
  updated: ['timestamp'],
  derived: scalars,
};

function textOf(value: unknown): string | null {
  return typeof value === 'string' ? value : null;
}
