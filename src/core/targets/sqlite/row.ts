import { type KnownField, type PerKind, valueField } from '../../kinds/index.js';
import type { Value } from '../../model/index.js';
import { bound, type Column, listFrom, type RowWire } from '../sql/index.js';

const asStored = (_field: KnownField, column: Exclude<Column, null>): Value =>
  typeof column === 'bigint' ? Number(column) : column;

const readers: PerKind<(field: KnownField, column: Exclude<Column, null>) => Value> = {
  text: asStored,
  email: asStored,
  url: asStored,
  uuid: asStored,
  ip: asStored,
  integer: asStored,
  decimal: asStored,
  choice: asStored,
  date: asStored,
  time: asStored,
  timestamp: asStored,
  dateTime: asStored,
  boolean: (_field, column) => (column === 0 || column === 1 ? column === 1 : asStored(_field, column)),
  record: asStored,
  list: (_field, column) => listFrom(column),
  reference: asStored,
};

/** The row wire of SQLite: the engine has no booleans, and drivers bind 1 and 0. */
export const wire: RowWire = {
  emptyRow: 'DEFAULT VALUES',
  givenKey: '',
  lastKey: (table, key) => `(SELECT max(${key}) FROM ${table})`,
  place: () => '?',
  respelled: () => '',
  bind(field, value) {
    if (typeof value === 'boolean') return Number(value);
    return typeof value === 'number' ? value : bound(field, value);
  },
  read(field, column) {
    const inner = valueField(field);
    return column === null ? null : readers[inner.kind](inner, column);
  },
};
