import { isTrimmed, type KnownField, valueField } from '../../kinds/index.js';
import {
  fieldAt,
  type Model,
  type PerOperator,
  type Predicate,
  perOperator,
  type Term,
  type Value,
} from '../../model/index.js';
import type { Dialect } from './dialect.js';
import { binary, column, type Sql } from './tree.js';

interface Context {
  readonly model: Model<KnownField['kind']>;
  readonly dialect: Dialect;
}

/** SQL's CHECK has Kleene's logic of its own: an operator becomes its twin. Null: not said in an expression. */
const predicates = {
  closed: () => null,
  unique: () => null,
  refersTo: () => null,
  typed: ({ of }, { model, dialect }) => dialect.columnType(fieldAt(model, of)).check,
  canonical: ({ of }, { model, dialect }) => {
    const field = valueField(fieldAt(model, of));
    if (!isTrimmed(field)) return null;
    return dialect.canonical(column(field.column), field.facets.lines === 'many' ? 'many' : 'one');
  },
  given: ({ of }, { model }) => ({ isGiven: column(fieldAt(model, of).column) }),
  compare: ({ left, by, right }, context) => binary(term(left, context), by, term(right, context)),
  member: ({ of, among }, context) => ({ member: term(of, context), among: among.map(literal) }),
  matches: ({ of, pattern }, { model, dialect }) => {
    if (!('field' in of)) return null;
    const held = dialect.matches(fieldAt(model, of.field).column, pattern, { table: model.table, name: '' });
    return 'check' in held ? held.check : null;
  },
  and: ({ all }, context) => joined(all, context, (parts) => ({ all: parts })),
  or: ({ any }, context) => joined(any, context, (parts) => ({ any: parts })),
  not: ({ holds }, context) => joined([holds], context, ([part]) => ({ not: part as Sql })),
} satisfies PerOperator<Context, Sql | null>;

/** The expression that a CHECK holds; null where the predicate is held in another way, or not at all. */
export function predicateSql(predicate: Predicate, context: Context): Sql | null {
  return perOperator(predicates, predicate, context);
}

function joined(inner: readonly Predicate[], context: Context, join: (parts: readonly Sql[]) => Sql): Sql | null {
  const parts = inner.map((one) => predicateSql(one, context));
  return parts.includes(null) ? null : join(parts as readonly Sql[]);
}

function term(of: Term, context: Context): Sql {
  if ('field' in of) return column(fieldAt(context.model, of.field).column);
  if ('lengthOf' in of) return context.dialect.lengthOf(term(of.lengthOf, context));
  return literal(of.literal);
}

function literal(value: Value): Sql {
  if (typeof value === 'number') return { number: value };
  if (typeof value === 'boolean') return { truth: value };
  return { text: String(value) };
}
