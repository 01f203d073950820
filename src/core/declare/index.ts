export type { Definition, Fields } from './definition.js';
export {
  type BooleanHandle,
  type CodeHandle,
  type DateHandle,
  type Expression,
  type Handle,
  type HandlesOf,
  type NumberHandle,
  not,
  type ReferenceHandle,
  type TextHandle,
} from './expressions.js';
export { boolean, choice, date, integer, reference, text } from './fields.js';
export { snakeCase } from './names.js';
export { rule, unique } from './rules.js';
export { type Declaration, ruleset } from './ruleset.js';
export { type Schema, schemaOf, targetsOf } from './schema.js';
export type { AcceptedOf, AnyRuleset, Ruleset, SubmittedOf } from './types.js';
