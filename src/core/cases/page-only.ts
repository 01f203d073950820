import type { Schema } from '../declare/index.js';
import type { KnownField } from '../kinds/index.js';
import { encode } from '../meaning/index.js';
import { type Constraint, type Enforcer, formName, isSent, type Row, valueAt } from '../model/index.js';
import type { Context, Criterion } from './context.js';
import { criteria } from './criteria.js';

type Model = Schema[number];

/** The criteria that look at stored rows or at other wires; all others look at one record as a form sends it. */
const ofServers = [
  'whole',
  'pairs of limits',
  'uniqueness',
  'references',
  'deletions',
  'updates',
  'columns',
  'keys',
  'together',
];
const onForms = Object.entries(criteria).filter(([name]) => !ofServers.includes(name));

/** Whatever only the page has, as though the server had it too; null where there is nothing of the kind. */
export function asOnPage(model: Model): Model | null {
  const pageOnly = [...Object.values(model.fields), ...model.constraints].some(isPageOnly);
  if (!pageOnly) return null;
  const fields = Object.fromEntries(Object.entries(model.fields).map(([name, field]) => [name, served(field)]));
  return { ...model, fields, constraints: model.constraints.map(shared) };
}

/** The page's model without those of its rules over several fields that no server has. */
export function withoutPageRules(page: Model, model: Model): Model {
  const left = new Set(model.constraints.filter((one) => !one.facet && isPageOnly(one)).map(({ id }) => id));
  return { ...page, constraints: page.constraints.filter(({ id }) => !left.has(id)) };
}

/** The criteria over a page's model, as far as they are about what only the page has. */
export function pageCriteria(model: Model): { readonly [name: string]: Criterion } {
  const own = new Set(model.constraints.filter(isPageOnly).map(({ id }) => id));
  const narrowed = onForms.map(([name, criterion]): [string, Criterion] => [
    name,
    (context) =>
      criterion(context).filter(
        ({ constraint, wire, does }) => wire === 'form' && does === undefined && own.has(constraint),
      ),
  ]);
  return Object.fromEntries(narrowed);
}

/**
 * What a form sends for fields that only the page has, such as a repeated entry: values that go with the base. A server
 * passes them over; without them the page would send nothing.
 */
export function pageEntries(model: Model, base: Row, page: Context): { readonly [name: string]: unknown } {
  const tops = Object.values(model.fields);
  const own = tops.filter((field) => isSent(field) && isPageOnly(field));
  const given = Object.fromEntries(own.map(({ path }) => [path, valueAt(page.base, path)]));
  const fixed = tops.filter((field) => !isPageOnly(field)).map(({ path }) => path);
  const entries = encode(page.model, page.settle({ ...base, ...given }, fixed, ''), 'form');
  const names = own.map(({ path }) => formName(path));
  const isOwn = (name: string) => names.some((one) => name === one || name.startsWith(`${one}[`));
  return Object.fromEntries(Object.entries(entries).filter(([name]) => isOwn(name)));
}

function isPageOnly({ enforcedIn }: Pick<Constraint, 'enforcedIn'>): boolean {
  return enforcedIn.includes('client') && !enforcedIn.includes('server');
}

function shared<T extends { readonly enforcedIn: readonly Enforcer[] }>(one: T): T {
  return isPageOnly(one) ? { ...one, enforcedIn: [...one.enforcedIn, 'server'] } : one;
}

function served(field: KnownField): KnownField {
  const inner = field.fields as { readonly [name: string]: KnownField } | null;
  const fields =
    inner === null ? null : Object.fromEntries(Object.entries(inner).map(([name, one]) => [name, served(one)]));
  const item = field.item === null ? null : served(field.item as KnownField);
  return shared({ ...field, fields, item } as KnownField);
}
