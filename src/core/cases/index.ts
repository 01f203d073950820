export type { Beside, Start } from './base.js';
export { type CaseSet, caseSetFor, caseSetsFor, casesFor } from './case-set.js';
export { caseClock } from './clock.js';
export { criteria } from './criteria.js';
export { type Asked, type Coverage, type RuleCoverage, selected } from './selection.js';
export { caseOf } from './tried.js';
export { type UntestedReason, type UntestedRule, untestedReasons, untestedRules } from './untested.js';
