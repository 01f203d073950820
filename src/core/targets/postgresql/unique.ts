import { isTrimmed, type KnownField } from '../../kinds/index.js';
import { type Problem, problems } from '../../messages/index.js';
import { longest, printSql, type Table, type UniqueForm, type UniqueRule } from '../sql/index.js';
import { spelling } from './names.js';
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
  return fields.filter(isTrimmed).reduce((sum, field) => sum + MOST_BYTES_EACH * longest(field), 0);
}

/**
 * A constraint where a plain one says it, an index where letters are folded or a condition is met. Text that is longer
 * than an index entry is excluded by its hash; the engine compares the values themselves where hashes are the same.
 */
export function unique({ name, table, isKey, within, fields, folds, where }: UniqueRule): UniqueForm {
  const exact = { is: 'exact' } as const;
  const called = spelling.name(name);
  const expressions = [
    ...within.map((column) => spelling.name(column)),
    ...fields.map((field) => {
      const column = spelling.name(field.column);
      return folds && columnType(field, table).isText === true ? `lower(${column})` : column;
    }),
  ];
  const condition = where === null ? '' : ` WHERE (${printSql(where, spelling)})`;
  if (bytesOf(fields) > MOST_BYTES && !isKey) {
    const clause = `CONSTRAINT ${called} EXCLUDE USING hash ((${joined(expressions)}) WITH =)${condition}`;
    return { fidelity: exact, clause };
  }
  if (!folds && where === null) {
    const kind = isKey ? 'PRIMARY KEY' : 'UNIQUE';
    return { fidelity: exact, clause: `CONSTRAINT ${called} ${kind} (${expressions.join(', ')})` };
  }
  const on = `${spelling.name(table.name)} (${expressions.join(', ')})${condition}`;
  return { fidelity: exact, statements: [`CREATE UNIQUE INDEX IF NOT EXISTS ${called} ON ${on};`] };
}

/** Several values as one text that no other values give: each but the last with its length before it. */
function joined(expressions: readonly string[]): string {
  if (expressions.length === 1) return expressions[0] ?? '';
  return expressions
    .map((one, at) => (at === expressions.length - 1 ? `${one}` : `char_length(${one}::text) || ':' || ${one}`))
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
