export type { Violation } from '../core/model/index.js';
export type { Handle } from './connections/index.js';
export { insertRecord } from './insert-record.js';
export { type ViolationOptions, violationsFrom } from './violations.js';
export { type WriteOptions, type Written, write } from './write.js';
