export type { Tolerance } from '../core/model/index.js';
export type { ColumnSpelling } from './column-forms.js';
export { type DocumentOptions, documentLayer } from './documents/index.js';
export { type PostgresqlDocumentOptions, postgresqlDocumentLayer } from './documents/postgresql.js';
export type { ExistingKeys } from './existing-keys.js';
export type { FieldNames } from './field-names.js';
export { type FormOptions, formLayer } from './form/index.js';
export { type FunctionAnswer, type FunctionOptions, functionLayer } from './function.js';
export {
  type FaultPointers,
  type HttpAnswer,
  type HttpOptions,
  httpLayer,
  type RecordAddresses,
  type Send,
} from './http/index.js';
export type { JudgedOptions, Layer, OpenLayer, Surroundings } from './layer.js';
export { mariadbLayer } from './mariadb.js';
export type { OtherNames, TableNames } from './other-names.js';
export { type PageOptions, pageLayer } from './page/index.js';
export { postgresqlLayer } from './postgresql.js';
export { sqliteLayer } from './sqlite.js';
export type { TableOptions } from './tables.js';
