import { sqlTarget } from '../sql/index.js';
import { spelling } from './names.js';
import { canonical, lengthOf, matches } from './predicates.js';
import { columnType } from './types.js';

/** SQLite 3.37 and later: STRICT tables, named CHECKs, patterns without any extension. */
export const sqlite = sqlTarget({
  target: 'sqlite',
  spelling,
  countingKey: 'id INTEGER PRIMARY KEY',
  tableEnd: ' STRICT',
  columnType,
  canonical,
  unique: () => ({ is: 'exact' }),
  lengthOf,
  matches,
});
