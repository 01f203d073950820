export { utf8Length } from './bytes.js';
export { type Case, type DeletedRow, type Operation, operations, type WriteOperation, writes } from './case.js';
export {
  allFields,
  type Constraint,
  fieldAt,
  type Home,
  type LookUps,
  type Model,
  plainFields,
  type RuleFunction,
  type Stage,
  stages,
  valueAt,
  withValue,
} from './constraint.js';
export {
  add,
  compareExact,
  type Exact,
  exactOf,
  exactText,
  isMultiple,
  multipleBeyond,
  multiply,
  subtract,
} from './exact.js';
export type { Entry, Fidelity, Gap } from './fidelity.js';
export {
  type ColumnForm,
  type Domain,
  type Enforcer,
  enforcers,
  type Field,
  type Generation,
  generations,
  isSent,
  type Storage,
  secretIn,
  storages,
  storingFunction,
} from './field.js';
export { formName, type Indices, listsOf, noIndices, pointerToKey, pointerToPath } from './pointer.js';
export {
  type Comparator,
  type OperatorName,
  type PerOperator,
  type Predicate,
  type PredicateOf,
  perOperator,
} from './predicate.js';
export { type Random, randomFrom, seedOf } from './random.js';
export { spread } from './spread.js';
export { fieldTerm, literalTerm, type PerTerm, perTerm, type Term, type TermName, type TermOf } from './term.js';
export { type Tolerance, toleranceNames, tolerances } from './tolerance.js';
export { type Clock, type Path, type Pattern, type Place, type Row, type Value, type Wire, wires } from './value.js';
export type { Answer, Blame, Verdict, Violation } from './verdict.js';
