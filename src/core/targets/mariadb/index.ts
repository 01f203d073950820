import { sqlTarget } from '../sql/index.js';
import { spelling } from './names.js';
import * as predicates from './predicates.js';
import { checkable, defaultOf, filling, reading } from './readings.js';
import { wire } from './row.js';
import * as script from './script.js';
import { columnType } from './types.js';
import { folded, index, problemsOf, unique } from './unique.js';

/** MariaDB 10.11 and later: named CHECKs, a binary collation, InnoDB. */
export const mariadb = sqlTarget({
  target: 'mariadb',
  spelling,
  wire,
  countingKey: 'bigint AUTO_INCREMENT PRIMARY KEY',
  countedType: 'bigint',
  placeType: 'int',
  refersAhead: false,
  indexesReferences: true,
  ...predicates,
  ...script,
  columnType,
  checkable,
  reading,
  folded,
  unique,
  index,
  filling,
  defaultOf,
  problems: problemsOf,
});
