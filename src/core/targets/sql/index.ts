export { storedFields } from './columns.js';
export type { ColumnType, Dialect, Enforced } from './dialect.js';
export { sqlTarget } from './emit.js';
export { rangeOf, safeInteger } from './integers.js';
export { constraintName, quoteName } from './names.js';
export { altering, shownDay, shownDigits, shownNumber } from './shown.js';
export { binary, call, column, type Sql } from './tree.js';
