import type { Schema } from '../declare/index.js';
import type { KnownField } from '../kinds/index.js';
import { type Case, type Constraint, enforcers, type Row, secretIn } from '../model/index.js';
import { mentions } from '../operators/index.js';
import type { Criterion } from './context.js';
import { criteria } from './criteria.js';

type Model = Schema[number];

/** The criteria that look at one column by itself. */
const ofColumns = ['presence', 'edges', 'patterns', 'white space', 'spellings', 'types', 'columns', 'characters'];

/**
 * The ruleset as its tables have it: the stored form of a secret as a field that is written like any other, and without
 * the secret; null where it has none.
 */
export function withStoredForms(model: Model): Model | null {
  const secrets = Object.values(model.fields).filter(({ storedAs }) => storedAs !== null);
  if (secrets.length === 0) return null;
  const written = ([name, field]: [string, KnownField]): readonly (readonly [string, KnownField])[] => {
    if (field.storedAs !== null) return [];
    const isHolder = secretIn(name, model.fields) !== undefined;
    return [[name, isHolder ? { ...field, enforcedIn: enforcers } : field]];
  };
  return {
    ...model,
    fields: Object.fromEntries(Object.entries(model.fields).flatMap(written)),
    constraints: model.constraints.flatMap((one) => withoutSecret(one, secrets, model)),
  };
}

/** What is required of a secret is required of its stored form; nothing else that is about a secret is stored. */
function withoutSecret(one: Constraint, secrets: readonly KnownField[], { fields }: Model): readonly Constraint[] {
  const { owner, predicate, subjects } = one;
  if (secretIn(owner, fields) !== undefined) return [{ ...one, enforcedIn: enforcers }];
  const isAbout = ({ path }: KnownField) =>
    owner === path || subjects.includes(path) || mentions(predicate).includes(path);
  const secret = secrets.find(isAbout);
  if (secret === undefined) return [one];
  const holder = fields[secret.storedAs ?? ''];
  if (predicate.op !== 'given' || holder === undefined || holder.optional) return [];
  const { path } = holder;
  // As a facet it would be that of a derived field, as it is reported at another one.
  return [{ ...one, facet: false, owner: path, subjects: [path], predicate: { op: 'given', of: path } }];
}

/** What is declared of the stored forms of secrets; that such a value is text, its column's type makes sure of. */
function storedFormRules({ fields, constraints }: Pick<Model, 'fields' | 'constraints'>): readonly Constraint[] {
  return constraints.filter(
    ({ owner, facet, predicate }) => facet && predicate.op !== 'typed' && secretIn(owner, fields) !== undefined,
  );
}

/** The criteria over such a model, as far as they are about the stored form of a secret. */
export function storedFormCriteria({ fields, constraints }: Model): { readonly [name: string]: Criterion } {
  const own = new Set(storedFormRules({ fields, constraints }).map(({ id }) => id));
  const narrowed = ofColumns.map((name): [string, Criterion] => [
    name,
    (context) =>
      criteria[name]?.(context).filter(
        ({ constraint, wire, does }) => wire === 'row' && does === undefined && own.has(constraint),
      ) ?? [],
  ]);
  return Object.fromEntries(narrowed);
}

/** A case over such a model, expected as the ruleset has it: nobody reads the stored form of a secret. */
export function withoutStoredForms(one: Case, { fields }: Model): Case {
  if (!('accepted' in one.expected)) return one;
  const read = Object.entries(one.expected.accepted).filter(([name]) => secretIn(name, fields) === undefined);
  return { ...one, expected: { accepted: Object.fromEntries(read) } };
}

/** The stored forms of secrets that a case gives by itself. */
export function storedFormsIn({ wire, input }: Case, { fields }: Model): Row {
  if (wire !== 'row' || typeof input !== 'object' || input === null) return {};
  return Object.fromEntries(Object.entries(input).filter(([name]) => secretIn(name, fields) !== undefined));
}
