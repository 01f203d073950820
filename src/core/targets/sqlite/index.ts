import { sqlTarget } from '../sql/index.js';
import { spelling } from './names.js';
import * as predicates from './predicates.js';
import { wire } from './row.js';
import * as script from './script.js';
import { columnType, defaultOf, filling, reading } from './types.js';
import { index, unique } from './unique.js';

/** SQLite 3.37 and later: STRICT tables, named CHECKs, patterns without any extension. */
export const sqlite = sqlTarget({
  target: 'sqlite',
  spelling,
  wire,
  countingKey: 'INTEGER PRIMARY KEY',
  countedType: 'INTEGER',
  placeType: 'INTEGER',
  refersAhead: true,
  indexesReferences: false,
  ...predicates,
  ...script,
  columnType,
  checkable: () => true,
  reading,
  folded: (_rule, column) => `${spelling.name(column)} COLLATE NOCASE`,
  unique,
  index,
  filling,
  defaultOf,
  problems: () => [],
});
