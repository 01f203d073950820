import { fieldAt, type Predicate } from '../../model/index.js';
import { typeField } from './layout.js';
import type { Lowered } from './lower.js';
import { constraintName } from './names.js';
import type { Context } from './predicates.js';

const onDelete: { readonly [said: string]: string } = { refuse: 'NO ACTION', cascade: 'CASCADE', clear: 'SET NULL' };

/** A foreign key, with the index that it needs. */
export function refers(
  predicate: Extract<Predicate, { op: 'refersTo' }>,
  context: Context,
  called: string,
): Omit<Lowered, 'constraint'> {
  const { model, schema, dialect } = context;
  const { name } = dialect.spelling;
  const target = schema.find(({ ruleset }) => ruleset === predicate.to);
  if (target === undefined) throw new Error(`no ruleset ${predicate.to} in the schema`);
  const field = fieldAt(model, predicate.of);
  const there = `${name(target.table)} (${name(fieldAt(target, predicate.key).column)})`;
  const does = onDelete[String(field.facets.onDelete ?? 'refuse')] ?? '';
  const key = `FOREIGN KEY (${name(field.column)}) REFERENCES ${there} ON DELETE ${does}`;
  const clause = { name: called, text: `CONSTRAINT ${name(called)} ${key}` };
  const statements = index(predicate.of, context, called);
  // In a circle of tables the first one refers to one that is not there yet.
  const isLater = schema.indexOf(target) > schema.indexOf(model) && !dialect.refersAhead;
  const written = isLater ? { later: clause } : { clause };
  return { fidelity: { is: 'exact' }, statements, ...written };
}

/** One that an index begins with already needs none more. */
function index(path: string, { model, schema, dialect, table }: Context, called: string): readonly string[] {
  if (dialect.indexesReferences) return [];
  const covered =
    (table.of === '' && Object.values(model.indexes).some(([first]) => first === path)) ||
    model.constraints.some(
      ({ predicate }) =>
        predicate.op === 'unique' && predicate.of[0] === path && predicate.among === null && predicate.fold === 'none',
    );
  if (covered) return [];
  return [dialect.index(constraintName(called, '_index'), table, [typeField(fieldAt(model, path), schema)])];
}
