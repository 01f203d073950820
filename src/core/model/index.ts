export { utf8Length } from './bytes.js';
export type { Case } from './case.js';
export { type Constraint, fieldAt, type Model, type Stage, stages } from './constraint.js';
export type { Entry, Fidelity } from './fidelity.js';
export type { Domain, Field } from './field.js';
export { pointerToKey, pointerToPath } from './pointer.js';
export {
  type Comparator,
  type OperatorName,
  type PerOperator,
  type Predicate,
  type PredicateOf,
  perOperator,
  type Term,
} from './predicate.js';
export { type Clock, type Path, type Pattern, type Place, type Row, type Value, type Wire, wires } from './value.js';
export type { Answer, Blame, Verdict, Violation } from './verdict.js';
