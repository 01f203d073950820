import { sqlTarget } from '../sql/index.js';
import { spelling } from './names.js';
import * as predicates from './predicates.js';
import { columnType, defaultOf, filling } from './types.js';

/** SQLite 3.37 and later: STRICT tables, named CHECKs, patterns without any extension. */
export const sqlite = sqlTarget({
  target: 'sqlite',
  spelling,
  countingKey: 'id INTEGER PRIMARY KEY',
  tableEnd: ' STRICT',
  refersAhead: true,
  ...predicates,
  columnType,
  unique: () => ({ is: 'exact' }),
  folded: (column) => `${column} COLLATE NOCASE`,
  filling,
  defaultOf,
});
