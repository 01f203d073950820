import { isNumeric, isTrimmed, type KnownField, valueField } from '../../kinds/index.js';
import {
  exactOf,
  fieldAt,
  type Model,
  type PerOperator,
  type PerTerm,
  type Predicate,
  perOperator,
  perTerm,
  type Term,
  type Value,
} from '../../model/index.js';
import { isMoment, sameFraction } from '../fractions.js';
import type { Dialect } from './dialect.js';
import { binary, column, type Sql } from './tree.js';

interface Context {
  readonly model: Model<KnownField['kind']>;
  readonly dialect: Dialect;
}

/** SQL's CHECK has Kleene's logic of its own: an operator becomes its twin. Null: not said in an expression. */
const predicates: PerOperator<Context, Sql | null> = {
  closed: () => null,
  bounded: () => null,
  unique: () => null,
  refersTo: () => null,
  custom: () => null,
  asks: () => null,
  each: () => null,
  some: () => null,
  distinct: () => null,
  typed: ({ of }, { model, dialect }) => dialect.columnType(fieldAt(model, of)).check,
  canonical: ({ of }, { model, dialect }) => {
    const field = fieldAt(model, of);
    return of.includes('[]') ? null : dialect.canonical(column(field.column), valueField(field));
  },
  given: ({ of }, context) => given(of, context),
  givenCount: ({ of, from, to }, context) => {
    const columns = of.map((path) => columnOf(path, context));
    if (columns.includes(null)) return null;
    const count = context.dialect.countGiven(columns as readonly Sql[]);
    return { between: count, low: { number: from }, high: { number: to } };
  },
  compare: ({ left, by, right, domain }, context) => {
    const [a, b] = [termSql(left, context), termSql(right, context)];
    if (a === null || b === null || (isMoment(domain) && !sameFraction(left, right, context.model))) return null;
    return binary(a, by, b);
  },
  member: ({ of, among }, context) => {
    const value = termSql(of, context);
    return value === null ? null : { member: value, among: among.map(literal) };
  },
  multiple: ({ of, step }, context) => {
    const value = termSql(of, context);
    if (value === null || of.term !== 'field') return null;
    return context.dialect.multiple(value, step, valueField(fieldAt(context.model, of.path)));
  },
  matches: ({ of, pattern }, { model, dialect }) => {
    if (of.term !== 'field' || of.path.includes('[]')) return null;
    const held = dialect.matches(fieldAt(model, of.path).column, pattern, { table: model.table, name: '' });
    return 'check' in held ? held.check : null;
  },
  includes: ({ of, text, where }, context) => {
    const [whole, part] = [termSql(of, context), termSql(text, context)];
    return whole === null || part === null ? null : context.dialect.includes(whole, part, where);
  },
  and: ({ all }, context) => joined(all, context, (parts) => ({ all: parts })),
  or: ({ any }, context) => joined(any, context, (parts) => ({ any: parts })),
  not: ({ holds }, context) => joined([holds], context, ([part]) => ({ not: part as Sql })),
};

/** The expression that a CHECK holds; null where the predicate is held in another way, or not at all. */
export function predicateSql(predicate: Predicate, context: Context): Sql | null {
  return perOperator(predicates, predicate, context);
}

function joined(inner: readonly Predicate[], context: Context, join: (parts: readonly Sql[]) => Sql): Sql | null {
  const parts = inner.map((one) => predicateSql(one, context));
  return parts.includes(null) ? null : join(parts as readonly Sql[]);
}

function given(path: string, context: Context): Sql | null {
  const of = columnOf(path, context);
  return of === null ? null : { isGiven: of };
}

/** The column of a field; null where it has none of its own in this table. */
function columnOf(path: string, { model }: Context): Sql | null {
  const field = fieldAt(model, path);
  const stored = !path.includes('[]') && field.item === null && field.enforcedIn.includes('database');
  return stored ? column(field.column) : null;
}

/** Terms; null where the engine has no twin of one, or where it would not be exact. */
const terms: PerTerm<Context, Sql | null> = {
  field: ({ path }, context) => {
    const { model } = context;
    const inner = valueField(fieldAt(model, path));
    // Decimal text of many digits has no order.
    const isText =
      inner.facets.precision !== undefined &&
      !isNumeric(inner) &&
      context.dialect.arithmetic('+', column(''), column(''), true) === null;
    return isText ? null : columnOf(path, context);
  },
  literal: ({ value, domain }) => (domain === 'number' ? number(value) : literal(value)),
  clock: () => null,
  sum: ({ of }, context) => arithmetic('+', of, context),
  difference: ({ of }, context) => arithmetic('-', of, context),
  product: ({ of }, context) => arithmetic('*', of, context),
  length: ({ of }, context) => {
    const text = termSql(of, context);
    return text === null ? null : context.dialect.lengthOf(text);
  },
  rank: ({ of, among }, context) => {
    const code = termSql(of, context);
    if (code === null) return null;
    if (of.term === 'literal') return { number: among.indexOf(of.value) };
    return { cases: among.map((one, at) => [binary(code, '=', literal(one)), { number: at }] as const) };
  },
  count: () => null,
  total: () => null,
  days: ({ of: [from, to] }, context) => {
    const [a, b] = [termSql(from, context), termSql(to, context)];
    return a === null || b === null ? null : context.dialect.daysBetween(a, b);
  },
  months: () => null,
  slug: () => null,
};

function termSql(term: Term, context: Context): Sql | null {
  return perTerm(terms, term, context);
}

function arithmetic(by: '+' | '-' | '*', [left, right]: readonly [Term, Term], context: Context): Sql | null {
  const [a, b] = [termSql(left, context), termSql(right, context)];
  if (a === null || b === null) return null;
  return context.dialect.arithmetic(by, a, b, !(isWhole(left, context) && isWhole(right, context) && by !== '*'));
}

/** Whole numbers of a size that no engine's sums overflow. */
function isWhole(term: Term, context: Context): boolean {
  if (term.term === 'field') return valueField(fieldAt(context.model, term.path)).facets.precision === undefined;
  if (term.term === 'literal') return exactOf(term.value)?.scale === 0;
  if (term.term === 'sum' || term.term === 'difference') return term.of.every((one) => isWhole(one, context));
  return term.term === 'length' || term.term === 'rank' || term.term === 'days';
}

function number(value: Value): Sql {
  return { number: typeof value === 'string' ? value : Number(value) };
}

export function literal(value: Value): Sql {
  if (typeof value === 'number') return { number: value };
  if (typeof value === 'boolean') return { truth: value };
  return { text: String(value) };
}

/** What the engine leaves out of canonical form, in words; null where it says all of it. */
export function canonicalGap(field: KnownField, dialect: Dialect): string | null {
  return isTrimmed(field) || valueField(field).facets.trim === false ? dialect.notCanonical(valueField(field)) : null;
}
