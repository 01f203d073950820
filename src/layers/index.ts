export { type FormOptions, formLayer } from './form/index.js';
export { type FunctionAnswer, type FunctionOptions, functionLayer } from './function.js';
export type { Layer, OpenLayer, Surroundings } from './layer.js';
export { mariadbLayer } from './mariadb.js';
export { postgresqlLayer } from './postgresql.js';
export { sqliteLayer } from './sqlite.js';
export type { TableOptions } from './tables.js';
