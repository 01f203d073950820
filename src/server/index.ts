export type { Violation } from '../core/model/index.js';
export type { FormState, Options } from '../core/targets/index.js';
export type { Handle } from './connections/index.js';
export { formHtml } from './form.js';
export * from './frameworks/index.js';
export * from './http/index.js';
export { insertRecord } from './insert-record.js';
export { type ViolationOptions, violationsFrom } from './violations.js';
export { type WriteOptions, type Written, write } from './write.js';
