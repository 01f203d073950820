export { requiredCircle, requiredTargetsOf } from './circles.js';
export type { AnyDeclaration, Declaration } from './declaration.js';
export type { Definition, Fields } from './definition.js';
export { atLeastGiven, atMostGiven, custom, type Expression, exactlyGiven, type Handle, not } from './expressions.js';
export { extend } from './extend.js';
export {
  boolean,
  choice,
  date,
  dateTime,
  decimal,
  email,
  integer,
  ip,
  list,
  record,
  reference,
  text,
  time,
  timestamp,
  url,
  uuid,
} from './fields.js';
export type {
  BooleanHandle,
  CodeHandle,
  DateHandle,
  DateTerm,
  HandlesOf,
  InstantHandle,
  InstantTerm,
  ListHandle,
  LocalHandle,
  NumberHandle,
  NumberTerm,
  OrderedCodeHandle,
  ReferenceHandle,
  TextHandle,
  TextTerm,
  TimeHandle,
} from './handle-types.js';
export { now, today } from './handles.js';
export { homeOf, isTable } from './homes.js';
export { join } from './join.js';
export { snakeCase } from './names.js';
export { type AnyRule, type Lookup, lookUp, type Rule, rule, unique } from './rules.js';
export { ruleset } from './ruleset.js';
export { type Schema, schemaOf, targetsOf } from './schema.js';
export type { AcceptedOf, AnyRuleset, Ruleset, StoredOf, SubmittedOf } from './types.js';
