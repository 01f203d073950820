import { codesOf, hasIntegerCodes, isTextual, type KnownField, valueField } from '../../kinds/index.js';
import { type Problem, problems } from '../../messages/index.js';
import {
  cutName,
  longest,
  partsOf,
  printSql,
  type Sql,
  type Table,
  type UniqueForm,
  type UniqueRule,
} from '../sql/index.js';
import { quoteText, spelling } from './names.js';
import { columnType } from './types.js';

/** A B-tree entry holds so many bytes; the engine refuses a longer one with 54000, whatever the column allows. */
const MOST_BYTES = 2704;
/** Of one character in UTF-8. */
const MOST_BYTES_EACH = 4;
/** A look-up over longer text goes by its beginning. */
const BEGINNING = 300;

/** True where the values of fields always fit into an entry of an index. */
export function fitIndex(fields: readonly KnownField[]): boolean {
  return bytesOf(fields) <= MOST_BYTES;
}

function bytesOf(fields: readonly KnownField[]): number {
  return fields.filter(isTextual).reduce((sum, field) => sum + MOST_BYTES_EACH * longest(field), 0);
}

/**
 * A constraint where a plain one says it, an index where letters are folded or a condition is met. Text that is longer
 * than an index entry is excluded by its hash; the engine compares the values themselves where hashes are the same.
 */
export function unique({ name, table, isKey, within, fields, folds, where, whereFields }: UniqueRule): UniqueForm {
  const exact = { is: 'exact' } as const;
  const called = spelling.name(name);
  const expressions = [
    ...within.map((column) => spelling.name(column)),
    ...fields.map((field) => {
      const column = spelling.name(field.column);
      return folds && columnType(field, table).isText === true ? `lower(${column})` : column;
    }),
  ];
  const { condition, before } = conditionOf(where, whereFields, name, table);
  if (bytesOf(fields) > MOST_BYTES && !isKey) {
    const own = fields.map((field, at) => steadyText(field, table, expressions[within.length + at] ?? ''));
    const texts = [...within.map((column) => ownerText(column, table)), ...own];
    const clause = `CONSTRAINT ${called} EXCLUDE USING hash ((${joined(texts)}) WITH =)${condition}`;
    return { fidelity: exact, clause, ...before };
  }
  if (!folds && where === null) {
    const kind = isKey ? 'PRIMARY KEY' : 'UNIQUE';
    return { fidelity: exact, clause: `CONSTRAINT ${called} ${kind} (${expressions.join(', ')})` };
  }
  const on = `${spelling.name(table.name)} (${expressions.join(', ')})${condition}`;
  return { fidelity: exact, statements: [`CREATE UNIQUE INDEX IF NOT EXISTS ${called} ON ${on};`], ...before };
}

/**
 * The condition of an index. The engine takes only what never changes with the session, which excludes a cast from an
 * enum, or from text to a day: an expression with such a cast is moved into a function that is declared IMMUTABLE. Each of
 * the texts that reach it has one reading, whatever the session is set to.
 */
function conditionOf(where: Sql | null, fields: readonly KnownField[], rule: string, table: Table) {
  if (where === null) return { condition: '', before: {} };
  if (!casts(where)) return { condition: ` WHERE (${printSql(where, spelling)})`, before: {} };
  const called = spelling.name(cutName(`${rule}_among`));
  const names = fields.map(({ column }) => spelling.name(column));
  const types = fields.map((field) => columnType(field, table).type.replace(/ COLLATE .*/, ''));
  // Some words may name a column and no parameter, such as POSITION.
  const parameters = fields.map(({ column }, at) => `"${column.replaceAll('"', '""')}" ${types[at]}`).join(', ');
  const before = `CREATE OR REPLACE FUNCTION ${called}(${parameters}) RETURNS boolean LANGUAGE sql IMMUTABLE AS $$
  SELECT ${printSql(where, spelling)}
$$;`;
  return { condition: ` WHERE (${called}(${names.join(', ')}))`, before: { before } };
}

/** True where an expression casts to a type whose reading or writing the engine takes for a matter of the session. */
function casts(sql: Sql): boolean {
  if ('cast' in sql && sql.to !== 'numeric') return true;
  return partsOf(sql).some(casts);
}

/** Days and moments by their distance from this one: how a day is written is a matter of the session. */
const ORIGIN = '2000-01-01';

/** A value as text that is the same in every session, which the engine's own cast of an enum or a day is not. */
function steadyText(field: KnownField, table: Table, expression: string): string {
  const { type, isText } = columnType(field, table);
  const inner = valueField(field);
  if (inner.facets.keptAs === 'enum' && !hasIntegerCodes(inner)) {
    const labels = codesOf(inner).map((code) => quoteText(String(code)));
    return `CASE ${expression} ${labels.map((label) => `WHEN ${label} THEN ${label}`).join(' ')} END`;
  }
  if (type === 'date') return `(${expression} - DATE '${ORIGIN}')::text`;
  if (type.startsWith('timestamp')) {
    const isInstant = type.endsWith('with time zone');
    const origin = isInstant ? `TIMESTAMPTZ '${ORIGIN} 00:00:00+00'` : `TIMESTAMP '${ORIGIN}'`;
    return `extract(epoch FROM (${expression} - ${origin}))::text`;
  }
  return isText === true ? expression : `${expression}::text`;
}

/** The same of a column that says whose an entry of a list is. */
function ownerText(column: string, table: Table): string {
  const holds = table.key.find(({ name }) => name === column)?.holds;
  const name = spelling.name(column);
  return typeof holds === 'object' ? steadyText(holds, table, name) : `${name}::text`;
}

/** Several values as one text that no other values give: each but the last with its length before it. */
function joined(expressions: readonly string[]): string {
  if (expressions.length === 1) return expressions[0] ?? '';
  return expressions
    .map((one, at) => (at === expressions.length - 1 ? `${one}` : `char_length(${one}) || ':' || ${one}`))
    .join(' || ');
}

export function index(name: string, table: Table, fields: readonly KnownField[]): string {
  const over = fields.map((field) => {
    const column = spelling.name(field.column);
    return bytesOf([field]) > MOST_BYTES / fields.length ? `left(${column}, ${BEGINNING})` : column;
  });
  return `CREATE INDEX IF NOT EXISTS ${spelling.name(name)} ON ${spelling.name(table.name)} (${over.join(', ')});`;
}

/** A key that others refer to needs an index that holds it whole. */
export function keyProblems({ key, model }: Table, typed: (field: KnownField) => KnownField): readonly Problem[] {
  return key.flatMap(({ holds }) => {
    const field = holds === 'count' || holds === 'place' ? null : typed(holds);
    if (field === null || bytesOf([field]) <= MOST_BYTES) return [];
    const most = Math.floor(MOST_BYTES / MOST_BYTES_EACH);
    return [problems.keyTooLong(field.place, `${model.ruleset}.${field.path}`, 'PostgreSQL', String(most))];
  });
}
