import { homeOf, isTable, type Schema } from '../../declare/index.js';
import { isScalar, isTrimmed, type KnownField } from '../../kinds/index.js';
import {
  type Domain,
  exactOf,
  fieldAt,
  type PerOperator,
  type PerTerm,
  type Predicate,
  perOperator,
  perTerm,
  type Term,
  type Value,
} from '../../model/index.js';
import { isMoment, sameFraction, termSeconds } from '../fractions.js';
import type { Dialect } from './dialect.js';
import { type Table, typeField } from './layout.js';
import { binary, column, type Sql } from './tree.js';

/** Whose columns an expression speaks of. */
export interface Context {
  readonly model: Schema[number];
  readonly schema: Schema;
  readonly dialect: Dialect;
  readonly table: Table;
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
  typed: ({ of }, context) => context.dialect.columnType(typed(of, context), context.table).check,
  canonical: ({ of: path }, context) => {
    const field = typed(path, context);
    const of = context.dialect.reading(field);
    return of === null ? null : context.dialect.canonical(of, field);
  },
  given: ({ of }, context) => given(of, context),
  givenCount: ({ of, from, to }, context) => {
    const columns = of.map((path) => rawColumn(path, context));
    if (columns.includes(null)) return null;
    const count = context.dialect.countGiven(columns as readonly Sql[]);
    return { between: count, low: { number: from }, high: { number: to } };
  },
  compare: ({ left, by, right, domain }, context) => {
    const [a, b] = [termSql(left, context), termSql(right, context)];
    if (a === null || b === null) return null;
    if (!isMoment(domain) || sameFraction(left, right, context.model)) return binary(a, by, b);
    const seconds = [left, right].map((term) => termSeconds(term, context.model));
    return context.dialect.compareMoments([a, b], by, seconds, domain);
  },
  member: ({ of, among }, context) => {
    const value = termSql(of, context);
    return value === null ? null : { member: value, among: among.map((one) => context.dialect.literal(one, 'code')) };
  },
  multiple: ({ of, step }, context) => {
    const value = termSql(of, context);
    if (value === null || (of.term !== 'field' && of.term !== 'seconds')) return null;
    return context.dialect.multiple(value, step, isWhole(of, context));
  },
  matches: ({ of, pattern }, context) => {
    const value = of.term === 'field' ? termSql(of, context) : null;
    if (of.term !== 'field' || value === null) return null;
    const { column: name } = typed(of.path, context);
    const held = context.dialect.matches(value, pattern, { table: context.table.name, column: name, name: '' });
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
  const of = rawColumn(path, context);
  return of === null ? null : { isGiven: of };
}

/** A field with the type of its column: of a reference, that of the key that it leads to. */
function typed(path: string, { model, schema }: Context): KnownField {
  return typeField(fieldAt(model, path), schema);
}

/** The column of a field; null where it has none of its own in this table. */
function rawColumn(path: string, context: Context): Sql | null {
  const { model, table, dialect } = context;
  const field = fieldAt(model, path);
  if (!dialect.checkable(typed(path, context))) return null;
  const stored = isScalar(field) && field.enforcedIn.includes('database') && homeOf(model.fields, path) === table.of;
  return stored ? column(field.column) : null;
}

/** Terms; null where the engine has no twin of one, or where it would not be exact. */
const terms: PerTerm<Context, Sql | null> = {
  field: ({ path }, context) =>
    rawColumn(path, context) === null ? null : context.dialect.reading(typed(path, context)),
  literal: ({ value, domain }, { dialect }) => dialect.literal(value, domain),
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
    const one = (value: Value) => binary(code, '=', context.dialect.literal(value, 'code'));
    return { cases: among.map((value, at) => [one(value), { number: at }] as const) };
  },
  count: ({ over, where }, { model, dialect }) => {
    const list = fieldAt(model, over);
    return where === null && !isTable(list) ? dialect.itemsIn(column(list.column)) : null;
  },
  total: () => null,
  days: ({ of: [from, to] }, context) => {
    const [a, b] = [termSql(from, context), termSql(to, context)];
    return a === null || b === null ? null : context.dialect.daysBetween(a, b);
  },
  months: () => null,
  seconds: ({ of }, context) => {
    const [from, to] = of.map((time) => secondsSql(time, context));
    if (from == null || to == null) return null;
    return isMidnight(of[0]) ? to : binary(to, '-', from);
  },
  year: ({ of }, context) => {
    const date = termSql(of, context);
    return date === null ? null : context.dialect.yearOf(date);
  },
  slug: () => null,
};

/** The seconds of a time of day since midnight. */
function secondsSql(time: Term, context: Context): Sql | null {
  const sql = termSql(time, context);
  const seconds = termSeconds(time, context.model);
  return sql === null || seconds === null ? null : context.dialect.secondsOf(sql, seconds);
}

function isMidnight(time: Term): boolean {
  return time.term === 'literal' && /^[0:.]+$/.test(String(time.value));
}

/** True where a term's values have no digits behind the point. */
function isWhole(term: Term, context: Context): boolean {
  // Of the kinds of numbers, only the decimal one has a precision.
  if (term.term === 'field') return typed(term.path, context).facets.precision === undefined;
  return (
    term.term === 'seconds' && term.of.every((time) => /^(?:none|0)$/.test(String(termSeconds(time, context.model))))
  );
}

function termSql(term: Term, context: Context): Sql | null {
  return perTerm(terms, term, context);
}

function arithmetic(by: '+' | '-' | '*', [left, right]: readonly [Term, Term], context: Context): Sql | null {
  const [a, b] = [termSql(left, context), termSql(right, context)];
  if (a === null || b === null) return null;
  return context.dialect.arithmetic(by, a, b, [fractionDigits(left, context), fractionDigits(right, context)]);
}

/** How many digits a term's values can have behind the point. */
function fractionDigits(term: Term, context: Context): number {
  if (term.term === 'field') return Number(typed(term.path, context).facets.scale ?? 0);
  if (term.term === 'literal') return exactOf(term.value)?.scale ?? 0;
  if (term.term !== 'sum' && term.term !== 'difference' && term.term !== 'product') return 0;
  const [left, right] = term.of.map((one) => fractionDigits(one, context));
  return term.term === 'product' ? (left ?? 0) + (right ?? 0) : Math.max(left ?? 0, right ?? 0);
}

/** A value as every engine of SQL writes it. */
export function literal(value: Value): Sql {
  if (typeof value === 'number') return { number: value };
  if (typeof value === 'boolean') return { truth: value };
  return { text: String(value) };
}

/** The same, numbers of any precision as numbers. */
export function plainLiteral(value: Value, domain: Domain): Sql {
  return domain === 'number' ? { number: typeof value === 'string' ? value : Number(value) } : literal(value);
}

/** What the engine leaves out of canonical form, in words; null where it says all of it. */
export function canonicalGap(field: KnownField, dialect: Dialect): string | null {
  return isTrimmed(field) || field.facets.trim === false ? dialect.notCanonical(field) : null;
}

/** A comparison of moments that are of a type of the engine's, whatever their fraction. */
export function compareTyped([left, right]: readonly [left: Sql, right: Sql], by: string): Sql {
  return binary(left, by, right);
}

/** How many of several are given, where the truth of one counts as 1. */
export function countBySum(columns: readonly Sql[]): Sql {
  return columns.map((of): Sql => ({ isGiven: of })).reduce((left, right) => binary(left, '+', right));
}

/** What an engine leaves to the server that knows no Unicode normal forms. */
export function withoutNormalForms({ facets }: KnownField): string | null {
  return facets.unicode === 'NFC' ? "the engine knows no Unicode normal forms: it is the server's" : null;
}
