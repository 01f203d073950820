import { sqlTarget } from '../sql/index.js';
import { unique } from './fidelity.js';
import { spelling } from './names.js';
import * as predicates from './predicates.js';
import { columnType, defaultOf, filling } from './types.js';

/** PostgreSQL 15 and later: named CHECKs, the types that people expect. */
export const postgresql = sqlTarget({
  target: 'postgresql',
  spelling,
  countingKey: 'id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY',
  tableEnd: '',
  refersAhead: false,
  ...predicates,
  columnType,
  unique,
  folded: (column) => `lower(${column})`,
  filling,
  defaultOf,
});
