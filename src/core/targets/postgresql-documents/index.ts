import type { Schema } from '../../declare/index.js';
import type { KnownField } from '../../kinds/index.js';
import { type Constraint, type Entry, fieldAt, type Path, type PredicateOf } from '../../model/index.js';
import { NotRegular } from '../../reason/index.js';
import { type SchemaNode, saidOf, shapeOf } from '../json-schema/index.js';
import { quoteText } from '../postgresql/names.js';
import { fitIndex } from '../postgresql/unique.js';
import { constraintName, cutName, quoteName } from '../sql/index.js';
import { everything, type MadeFile, type Target } from '../target.js';
import { Checks } from './checks.js';
import { compared } from './compared.js';

type Model = Schema[number];

/**
 * Documents in PostgreSQL 15 and later: a table of each ruleset with one column of JSON, whose CHECKs say what a JSON
 * Schema says of the same document, and whose indexes say what is unique.
 */
export const postgresqlDocuments: Target = {
  ledger: (schema, wanted = everything) =>
    schema.flatMap((model) => {
      const checks = new Checks(documentTable(model));
      return model.constraints.filter(wanted).map((constraint) => entryOf(constraint, model, checks));
    }),
  problems: () => [],
  emit: (schema) => [
    file('tables', schema, schema.map(tableText).join('\n\n')),
    file('drop-tables', schema, schema.map(dropText).join('\n\n')),
  ],
  standsAlone: false,
  onRequest: true,
};

/** The table of a ruleset's documents. */
export function documentTable({ table }: Pick<Model, 'table'>): string {
  return cutName(`${table}_documents`);
}

/** The name of an index, which no other table of the schema has. */
export function documentIndex(id: string): string {
  return constraintName(id, '_document');
}

/** What a constraint is on the column of documents, or why it is nothing there. */
type Held =
  | { readonly check: string }
  | { readonly index: string }
  | { readonly why: string; readonly needs?: 'store' };

function heldBy(constraint: Constraint, model: Model, checks: Checks): Held {
  const { predicate, enforcedIn } = constraint;
  if (!enforcedIn.includes('database')) return { why: `it is enforced in ${enforcedIn.join(' and ')} only` };
  if (predicate.op === 'unique') return uniqueOf(constraint, predicate, model);
  if (predicate.op === 'refersTo')
    return { why: 'a document has no foreign keys: the program that writes must look it up' };
  if (predicate.op === 'closed') return { check: checks.condition(closed(model.fields), 'document') };
  const said = saidOf(constraint, model);
  if (!('node' in said)) {
    const isPlain = predicate.op === 'compare' && constraint.over === null;
    const check = isPlain ? compared(predicate, model, (path) => typed(path, model, checks)) : null;
    return check === null ? said : { check };
  }
  try {
    return { check: checks.condition(withNulls(said.node, constraint), 'document') };
  } catch (error) {
    if (error instanceof NotRegular) return { why: `the pattern has ${error.construct}` };
    throw error;
  }
}

/** The condition in which a value is one of its field's kind, or is not there. */
function typed(path: Path, model: Model, checks: Checks): string {
  const constraint = model.constraints.find(({ predicate }) => predicate.op === 'typed' && predicate.of === path);
  const said = constraint === undefined ? null : saidOf(constraint, model);
  return said !== null && 'node' in said ? checks.term(said.node, 'document') : 'false';
}

/** An entry that is nothing is missing, and breaks no other rule of its own. */
function withNulls(node: SchemaNode, { predicate, facet, owner }: Constraint): SchemaNode {
  if (!facet || !owner.endsWith('[]') || predicate.op === 'given') return node;
  const inEntries = (one: SchemaNode): SchemaNode => {
    const { properties, items } = one as { readonly properties?: SchemaNode; readonly items?: SchemaNode };
    const [name] = Object.keys(properties ?? {});
    if (properties !== undefined && name !== undefined)
      return { properties: { [name]: inEntries(properties[name] as SchemaNode) } };
    if (items === undefined) return { anyOf: [{ type: 'null' }, one] };
    return { items: inEntries(items) };
  };
  return inEntries(node);
}

/** The names that may be in a document, and in the records within it; what has none is not spoken of. */
function closed(fields: { readonly [name: string]: KnownField }): SchemaNode {
  return withoutTypes(shapeOf(fields));
}

function withoutTypes({ type, title, ...node }: SchemaNode): SchemaNode {
  const { properties, items } = node as { readonly properties?: SchemaNode; readonly items?: SchemaNode };
  const inner = Object.entries(properties ?? {}).map(([name, one]) => [name, withoutTypes(one as SchemaNode)]);
  return {
    ...node,
    ...(properties && { properties: Object.fromEntries(inner) }),
    ...(items && { items: withoutTypes(items) }),
  };
}

function uniqueOf({ id }: Constraint, { of, fold, among }: PredicateOf<'unique'>, model: Model): Held {
  const fields = of.map((path) => fieldAt(model, path));
  if (of.some((path) => path.includes('['))) return { why: 'entries of lists are in no index' };
  if (among !== null) return { why: 'an index over some documents only is not made' };
  if (!fitIndex(fields)) return { why: 'an entry of an index has no room for the longest values' };
  const parts = of.map((path) => (fold === 'case' ? `lower((${textAt(path)}) COLLATE "C")` : `(${valueAt(path)})`));
  const name = quoteName(documentIndex(id));
  return { index: `CREATE UNIQUE INDEX ${name} ON ${quoteName(documentTable(model))} (${parts.join(', ')});` };
}

function valueAt(path: Path): string {
  return ['document', ...path.split('.').map(quoteText)].join(' -> ');
}

function textAt(path: Path): string {
  return valueAt(path).replace(/ -> (?=[^>]*$)/, ' ->> ');
}

function entryOf(constraint: Constraint, model: Model, checks: Checks): Entry {
  const held = heldBy(constraint, model, checks);
  const becomes = 'check' in held ? `CHECK (${held.check})` : 'index' in held ? held.index : null;
  return {
    constraint: constraint.id,
    target: 'postgresql-documents',
    becomes,
    fidelity: 'why' in held ? { is: 'absent', ...held } : { is: 'exact' },
  };
}

function tableText(model: Model): string {
  const table = quoteName(documentTable(model));
  const checks = new Checks(documentTable(model));
  const held = model.constraints.map((constraint) => [constraint.id, heldBy(constraint, model, checks)] as const);
  const lines = [
    'id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY',
    'document jsonb NOT NULL',
    ...held.flatMap(([id, one]) =>
      'check' in one && one.check !== 'true'
        ? [`CONSTRAINT ${quoteName(constraintName(id))}\n    CHECK (${one.check})`]
        : [],
    ),
  ];
  return [
    ...checks.functions,
    `CREATE TABLE ${table} (\n  ${lines.join(',\n  ')}\n);`,
    `COMMENT ON TABLE ${table} IS ${quoteText(`${model.label}, as documents`)};`,
    ...held.flatMap(([, one]) => ('index' in one ? [one.index] : [])),
  ].join('\n\n');
}

function dropText(model: Model): string {
  const checks = new Checks(documentTable(model));
  for (const constraint of model.constraints) heldBy(constraint, model, checks);
  return [
    `DROP TABLE IF EXISTS ${quoteName(documentTable(model))};`,
    ...checks.functionNames.map((name) => `DROP FUNCTION IF EXISTS ${name}(jsonb);`),
  ].join('\n');
}

function file(name: string, schema: Schema, text: string): MadeFile {
  return {
    path: `postgresql-documents/${name}.sql`,
    comment: ['-- ', ''],
    from: schema.map(({ ruleset }) => ruleset),
    text: `${text}\n`,
  };
}
