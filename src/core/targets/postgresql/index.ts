import { sqlTarget } from '../sql/index.js';
import { spelling } from './names.js';
import * as predicates from './predicates.js';
import { wire } from './row.js';
import * as script from './script.js';
import { columnType, defaultOf, filling, reading } from './types.js';
import { index, keyProblems, unique } from './unique.js';

/** PostgreSQL 15 and later: named CHECKs, the types that people expect. */
export const postgresql = sqlTarget({
  target: 'postgresql',
  spelling,
  wire,
  countingKey: 'bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY',
  countedType: 'bigint',
  placeType: 'integer',
  refersAhead: false,
  indexesReferences: false,
  ...predicates,
  ...script,
  columnType,
  checkable: () => true,
  reading,
  folded: (_rule, column) => `lower(${spelling.name(column)})`,
  unique,
  index,
  filling,
  defaultOf,
  problems: keyProblems,
});
