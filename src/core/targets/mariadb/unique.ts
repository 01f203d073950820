import type { KnownField } from '../../kinds/index.js';
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
import { isLookedUp, MOST_INDEXED, textType } from './text-types.js';
import { columnType } from './types.js';

const { name: quoted } = spelling;
/** A look-up over long text goes by its beginning. */
const BEGINNING = 191;

/**
 * A constraint over columns. The engine has no indexes of expressions and none of some rows only: letters are folded
 * in a column that it works out, and so is the condition, NULL where it does not hold. What is longer than an index
 * entry it compares by a hash of its own making, and by the values where hashes are the same.
 */
export function unique({ name, table, isKey, within, fields, folds, where }: UniqueRule): UniqueForm {
  if (where !== null && readsMoments(where)) return { fidelity: unreadable };
  const fidelity = { is: 'exact' } as const;
  const columns: string[] = [];
  const over = fields.map((field) => {
    if (!folds || columnType(field, table).isText !== true) return quoted(field.column);
    const own = folded(name, field.column);
    const type = textType(longest(field), field, table);
    columns.push(`${own} ${type} GENERATED ALWAYS AS (${foldCase(quoted(field.column))}) VIRTUAL`);
    return own;
  });
  if (where !== null) {
    const among = quoted(cutName(`${name}_among`));
    columns.push(`${among} tinyint GENERATED ALWAYS AS (CASE WHEN ${printSql(where, spelling)} THEN 1 END) VIRTUAL`);
    over.push(among);
  }
  const kind = isKey ? 'PRIMARY KEY' : 'UNIQUE';
  const all = [...within.map(quoted), ...over].join(', ');
  return { fidelity, columns, clause: `CONSTRAINT ${quoted(name)} ${kind} (${all})` };
}

/** What the ledger documents for a condition that no worked-out column may have. */
const unreadable = {
  is: 'absent',
  why: 'its condition reads a moment from text, which no column that is worked out may do',
} as const;

/** True where an expression makes a moment of text: the engine refuses that in a worked-out column (error 1901). */
function readsMoments(sql: Sql): boolean {
  if ('cast' in sql && /^(?:datetime|timestamp)/i.test(sql.to)) return true;
  return partsOf(sql).some(readsMoments);
}

/** The column that holds another with its letters folded, for one rule. */
export function folded(rule: string, column: string): string {
  return quoted(cutName(`${rule}_folded_${column}`));
}

/** A–Z only: the engine's own lower() knows more letters. */
function foldCase(of: string): string {
  return [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'].reduce(
    (inner, letter) => `replace(${inner}, ${quoteText(letter)}, ${quoteText(letter.toLowerCase())})`,
    of,
  );
}

export function index(name: string, table: Table, fields: readonly KnownField[]): string {
  const over = fields.map((field) => {
    const isLong = columnType(field, table).isText === true && longest(field) > BEGINNING;
    return `${quoted(field.column)}${isLong && !isLookedUp(field, table) ? `(${BEGINNING})` : ''}`;
  });
  return `CREATE INDEX IF NOT EXISTS ${quoted(name)} ON ${quoted(table.name)} (${over.join(', ')});`;
}

/** What the engine can't have: a key that no index entry holds, a name that it refuses. */
export function problemsOf(table: Table, typed: (field: KnownField) => KnownField): readonly Problem[] {
  const { key, model, fields, name } = table;
  const keys = key.flatMap(({ holds }) => {
    const field = holds === 'count' || holds === 'place' ? null : typed(holds);
    const isLong = field !== null && columnType(field, table).isText === true && longest(field) > MOST_INDEXED;
    return isLong
      ? [problems.keyTooLong(field.place, `${model.ruleset}.${field.path}`, 'MariaDB', String(MOST_INDEXED))]
      : [];
  });
  const names = [{ column: name, place: model.place }, ...fields].flatMap(({ column, place }) => {
    if (/[\u{10000}-\u{10ffff}]/u.test(column))
      return [problems.nameUnfit(place, column, 'MariaDB', 'it takes no characters beyond U+FFFF in names')];
    return / $/.test(column) ? [problems.nameUnfit(place, column, 'MariaDB', 'a name can not end in a space')] : [];
  });
  return [...keys, ...names];
}
