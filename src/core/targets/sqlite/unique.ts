import type { KnownField } from '../../kinds/index.js';
import { printSql, type Table, type UniqueForm, type UniqueRule } from '../sql/index.js';
import { spelling } from './names.js';
import { columnType } from './types.js';

/** A constraint where a plain one says it, an index where letters are folded or a condition is met. */
export function unique({ name, table, isKey, within, fields, folds, where }: UniqueRule): UniqueForm {
  const fidelity = { is: 'exact' } as const;
  const called = spelling.name(name);
  const columns = [
    ...within.map((column) => spelling.name(column)),
    ...fields.map((field) => {
      const isFolded = folds && columnType(field).isText === true;
      return `${spelling.name(field.column)}${isFolded ? ' COLLATE NOCASE' : ''}`;
    }),
  ];
  if (!folds && where === null) {
    const kind = isKey ? 'PRIMARY KEY' : 'UNIQUE';
    return { fidelity, clause: `CONSTRAINT ${called} ${kind} (${columns.join(', ')})` };
  }
  const condition = where === null ? '' : ` WHERE ${printSql(where, spelling)}`;
  const on = `${spelling.name(table.name)} (${columns.join(', ')})${condition}`;
  return { fidelity, statements: [`CREATE UNIQUE INDEX IF NOT EXISTS ${called} ON ${on};`] };
}

export function index(name: string, table: Table, fields: readonly KnownField[]): string {
  const over = fields.map(({ column }) => spelling.name(column)).join(', ');
  return `CREATE INDEX IF NOT EXISTS ${spelling.name(name)} ON ${spelling.name(table.name)} (${over});`;
}
