import { homeOf, isTable, type Schema } from '../../declare/index.js';
import { type KnownField, valueField } from '../../kinds/index.js';
import { type Constraint, type Fidelity, fieldAt, type Path, type Predicate } from '../../model/index.js';
import { mentions } from '../../operators/index.js';
import { everything, type Wanted } from '../target.js';
import type { Dialect } from './dialect.js';
import { columnsOf, optionalAround, placeColumn, type Table, tableAt, tablesOf, typeField } from './layout.js';
import { constraintName } from './names.js';
import { patternGap } from './pattern-gaps.js';
import { type Context, canonicalGap, predicateSql } from './predicates.js';
import { printSql } from './print.js';
import { refers } from './references.js';
import type { ClauseText } from './table-text.js';
import { binary, column, type Sql } from './tree.js';

type Known = Schema[number];

/** Where a constraint is written: in a column's line, among the table's constraints, or as statements behind it. */
export interface Lowered {
  readonly constraint: Constraint;
  readonly fidelity: Fidelity;
  readonly table?: Table;
  /** The text that the ledger shows where it is none of the following. */
  readonly becomes?: string;
  readonly notNull?: Path;
  readonly clause?: ClauseText;
  /** Columns that the engine works out. */
  readonly columns?: readonly string[];
  readonly statements?: readonly string[];
  /** What must be there before the table. */
  readonly before?: string;
  /** A foreign key behind all tables. */
  readonly later?: ClauseText;
}

const exact: Fidelity = { is: 'exact' };

/** What every constraint of a model, or those that are wanted, become in a dialect. */
export function lowerModel(
  model: Known,
  schema: Schema,
  dialect: Dialect,
  wanted: Wanted = everything,
): readonly Lowered[] {
  const asked = model.constraints.filter(wanted);
  if (asked.length === 0) return [];
  const tables = new Map(tablesOf(model).map((table) => [table.of, table]));
  return asked.map((constraint) => ({
    constraint,
    ...lowerConstraint(constraint, model, schema, dialect, tables),
  }));
}

/** A CHECK of a table. */
export function checked(name: string, sql: Sql, { spelling }: Dialect): ClauseText {
  return { name, text: `CONSTRAINT ${spelling.name(name)} CHECK (${printSql(sql, spelling)})` };
}

export function absent(why: string): Omit<Lowered, 'constraint'> {
  return { fidelity: { is: 'absent', why } };
}

/** Other code of a table can look into a column of JSON. */
const checkedBefore: Omit<Lowered, 'constraint'> = {
  fidelity: { is: 'absent', why: 'what is in a list that is kept as JSON is checked before', elsewise: true },
};

/** Why a table can't hold a constraint, whatever it says; null where it may. */
function outOfReach({ predicate, blame, facet, owner, enforcedIn }: Constraint, model: Known): string | null {
  if (blame === '' && facet) return 'a table has its own columns and no others';
  if (!enforcedIn.includes('database')) return `it is enforced in ${enforcedIn.join(' and ')} only`;
  const field = owner === '' ? null : fieldAt(model, owner);
  if (facet && field?.fields != null && predicate.op !== 'distinct')
    return 'the fields of a record are columns of their own';
  return null;
}

type Lowering = Omit<Lowered, 'constraint'>;

function lowerConstraint(
  constraint: Constraint,
  model: Known,
  schema: Schema,
  dialect: Dialect,
  tables: ReadonlyMap<Path, Table>,
): Lowering {
  const why = outOfReach(constraint, model);
  if (why !== null) return absent(why);
  const { owner, facet, id } = constraint;
  const list = facet && owner !== '' ? fieldAt(model, owner) : null;
  if (list?.item != null && isTable(list) && constraint.predicate.op === 'typed')
    return { fidelity: exact, becomes: `TABLE ${tableAt(model, list.path).name}` };
  const holder = constraint.predicate.op === 'given' && list !== null ? list.storedAs : null;
  if (holder !== null) return { fidelity: exact, table: tables.get('') ?? tableAt(model, ''), notNull: holder };
  const counted = mostItems(constraint, model, dialect);
  if (counted !== null) return counted;
  const predicate = ofItems(constraint.predicate, model);
  const paths = [...mentions(predicate), ...(facet && owner !== '' && predicate.op !== 'distinct' ? [owner] : [])];
  const homes = new Set(paths.map((path) => homeOf(model.fields, path)));
  const lost = paths.find((path) => !fieldAt(model, path).enforcedIn.includes('database'));
  if (lost !== undefined) return absent(`${lost} has no column`);
  const [home = ''] = homes;
  if (home === null || homes.has(null)) return checkedBefore;
  if (homes.size > 1) return absent('a CHECK sees one row of one table, and this is about several');
  const table = tables.get(home) ?? tableAt(model, home);
  const context: Context = { model, schema, dialect, table };
  return { table, ...lowerIn(context, constraint, predicate, constraintName(id)) };
}

/** What holds of each item of a list with a table of its own holds of each row there. */
function ofItems(predicate: Predicate, model: Known): Predicate {
  if (predicate.op !== 'each' || !isTable(fieldAt(model, predicate.over))) return predicate;
  return ofItems(predicate.holds, model);
}

function lowerIn(context: Context, constraint: Constraint, predicate: Predicate, name: string): Lowering {
  const { model, schema, dialect, table } = context;
  const typed = (path: Path) => typeField(fieldAt(model, path), schema);
  if (predicate.op === 'given' && constraint.facet && constraint.owner !== constraint.blame)
    return requiredOf(predicate.of, constraint.subjects, context, name);
  if (predicate.op === 'given' && constraint.facet) return required(predicate.of, context, name);
  if (predicate.op === 'typed') {
    const { check, fidelity } = dialect.columnType(typed(predicate.of), table);
    return { fidelity, ...(check === null ? {} : { clause: checked(name, check, dialect) }) };
  }
  if (predicate.op === 'unique') return unique(predicate.of, predicate, context, name);
  if (predicate.op === 'distinct') return distinct(predicate.of, context, name);
  if (predicate.op === 'refersTo') return refers(predicate, context, name);
  if (predicate.op === 'matches' && predicate.of.term === 'field') {
    const field = typed(predicate.of.path);
    const of = dialect.reading(field);
    if (of === null) return absent('no CHECK can mention its column');
    const held = dialect.matches(of, predicate.pattern, {
      table: table.name,
      column: field.column,
      name,
    });
    if ('untranslated' in held) return absent(held.untranslated);
    const fidelity = asTyped(field, context);
    if ('statements' in held) return { fidelity, statements: held.statements };
    return { fidelity: held.gap ?? fidelity, clause: checked(name, held.check, dialect) };
  }
  const sql = predicateSql(predicate, context);
  if (sql === null) return absent('a part of it has no twin in SQL');
  const gap = predicate.op === 'canonical' ? canonicalGap(typed(predicate.of), dialect) : null;
  const held =
    predicate.op === 'canonical'
      ? asTyped(typed(predicate.of), context)
      : (patternGap(predicate, context) ?? asRounded(predicate, constraint.facet, context));
  return { fidelity: gap === null ? held : { is: 'looser', why: gap }, clause: checked(name, sql, dialect) };
}

/** A type that rounds has done so before any CHECK sees the value. */
function asRounded(predicate: Predicate, isFacet: boolean, { model, schema, dialect, table }: Context): Fidelity {
  for (const path of mentions(predicate)) {
    const field = typeField(fieldAt(model, path), schema);
    const { rounds, fidelity } = dialect.columnType(field, table);
    if (rounds !== true || fidelity.is === 'exact') continue;
    // What is worked out stays what it is in the record, whatever its column makes of it.
    if (field.derivation !== null) return { is: 'looser', why: fidelity.why };
    return isFacet ? fidelity : { is: fidelity.is, why: fidelity.why };
  }
  return exact;
}

/** What is said of a text's form comes after its type: one that reads other spellings has made them canonical by then. */
function asTyped(field: KnownField, { dialect, table }: Context): Fidelity {
  const { isText, fidelity } = dialect.columnType(field, table);
  return isText === true ? exact : fidelity;
}

/** The greatest number of items as the greatest place of one; how few there are, no row of theirs can tell. */
function mostItems({ predicate, id }: Constraint, model: Known, dialect: Dialect): Lowering | null {
  if (predicate.op !== 'compare' || predicate.left.term !== 'count' || predicate.right.term !== 'literal') return null;
  const { left, by, right } = predicate;
  const list = fieldAt(model, left.over);
  if (homeOf(model.fields, list.path) === null || !isTable(list)) return null;
  if (left.where !== null || (by !== '<=' && by !== '<'))
    return absent('the rows of a list are counted by no constraint');
  const table = tableAt(model, list.path);
  const most = Number(right.value) - (by === '<' ? 1 : 0);
  const sql = binary(column(placeColumn(table) ?? ''), '<=', { number: most });
  return { table, fidelity: exact, clause: checked(constraintName(id), sql, dialect) };
}

/** Within an optional record: required where anything else of the record is there. */
function required(path: Path, { model, schema, dialect, table }: Context, name: string): Lowering {
  const { of } = table;
  const record = of === '' || of === path ? undefined : fieldAt(model, of);
  const around = optionalAround(table, path);
  if (around === null) {
    const missing: Fidelity = { is: 'looser', why: `a record without its row in ${table.name} is not refused` };
    const lone = record?.fields != null && !record.optional;
    return { notNull: path, fidelity: lone ? missing : exact };
  }
  const { scalars, more } = columnsOf(around);
  const seen = scalars.filter((field) => dialect.checkable(typeField(field, schema)));
  if (!seen.some((field) => field.path === path)) return absent('no CHECK can mention its column');
  const own = column(fieldAt(model, path).column);
  const others = seen
    .filter((field) => field.path !== path)
    .map((field): Sql => ({ not: { isGiven: column(field.column) } }));
  const check: Sql = { any: [{ isGiven: own }, { all: [{ not: { isGiven: own } }, ...others] }] };
  const fidelity: Fidelity =
    more || seen.length < scalars.length
      ? { is: 'looser', why: 'not all that is in the record counts for its presence here' }
      : exact;
  return { fidelity, clause: checked(name, check, dialect) };
}

/** A field that is worked out is required only where all that it is worked out from is there. */
function requiredOf(
  path: Path,
  sources: readonly Path[],
  { model, schema, dialect, table }: Context,
  name: string,
): Lowering {
  const fields = sources.map((source) => fieldAt(model, source));
  const elsewhere = fields.find(
    (field) =>
      !field.enforcedIn.includes('database') ||
      homeOf(model.fields, field.path) !== table.of ||
      !dialect.checkable(typeField(field, schema)),
  );
  if (elsewhere !== undefined) return absent(`${elsewhere.path}, which it is worked out from, has no column here`);
  const given = (of: string): Sql => ({ isGiven: column(of) });
  const check: Sql = {
    any: [given(fieldAt(model, path).column), ...fields.map((field): Sql => ({ not: given(field.column) }))],
  };
  return { fidelity: exact, clause: checked(name, check, dialect) };
}

type Unique = Extract<Predicate, { op: 'unique' }>;

function unique(of: readonly Path[], { fold, among }: Unique, context: Context, name: string): Lowering {
  const { model, schema, dialect, table } = context;
  const where = among === null ? null : predicateSql(among, context);
  if (among !== null && where === null) return absent('its condition has no twin in SQL');
  return dialectForm(
    dialect.unique({
      name,
      table,
      isKey: of.length === 1 && of[0] === model.key,
      within: [],
      fields: of.map((path) => typeField(fieldAt(model, path), schema)),
      folds: fold === 'case',
      where,
      whereFields:
        among === null ? [] : [...new Set(mentions(among))].map((path) => typeField(fieldAt(model, path), schema)),
    }),
    name,
  );
}

function distinct(of: Path, { model, schema, dialect, table }: Context, name: string): Lowering {
  const field = fieldAt(model, of);
  if (valueField(field).fields !== null || field.item !== null) return absent('whole records are compared by no index');
  const within = table.key.filter(({ holds }, at) => holds !== 'place' || at < table.key.length - 1);
  const rule = {
    name,
    table,
    isKey: false,
    within: within.map((one) => one.name),
    fields: [typeField(field, schema)],
    folds: false,
    where: null,
    whereFields: [],
  };
  return dialectForm(dialect.unique(rule), name);
}

function dialectForm({ clause, ...form }: ReturnType<Dialect['unique']>, name: string): Lowering {
  return { ...form, ...(clause === undefined ? {} : { clause: { name, text: clause } }) };
}

/** The text that the ledger shows for a constraint: what stands in the table, in one line. */
export function becomes(lowered: Lowered, schema: Schema, dialect: Dialect): string | null {
  const { predicate } = lowered.constraint;
  const { table } = lowered;
  const field = predicate.op === 'typed' && table !== undefined ? fieldAt(table.model, predicate.of) : undefined;
  const parts = [
    ...(lowered.becomes === undefined ? [] : [lowered.becomes]),
    ...(lowered.notNull === undefined ? [] : ['NOT NULL']),
    ...(field === undefined || table === undefined ? [] : [dialect.columnType(typeField(field, schema), table).type]),
    ...(lowered.columns ?? []),
    ...(lowered.clause === undefined ? [] : [lowered.clause.text.replace(/^CONSTRAINT \S+ /, '')]),
    ...[...(lowered.statements ?? []), ...(lowered.later === undefined ? [] : [lowered.later.text])].map(
      (text) => text.split('\n')[0]?.replace(/;$/, '') ?? '',
    ),
  ];
  if (parts.length === 0) return null;
  return `${table?.parent == null ? '' : `in ${table.name}: `}${parts.join('; ')}`;
}
