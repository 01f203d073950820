import { sqlTarget } from '../sql/index.js';
import { unique } from './fidelity.js';
import { spelling } from './names.js';
import { canonical, lengthOf, matches } from './predicates.js';
import { columnType } from './types.js';

/** PostgreSQL 15 and later: named CHECKs, the types that people expect. */
export const postgresql = sqlTarget({
  target: 'postgresql',
  spelling,
  countingKey: 'id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY',
  tableEnd: '',
  columnType,
  canonical,
  unique,
  lengthOf,
  matches,
});
