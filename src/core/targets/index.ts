export { type Compiled, compileSchema } from './compile.js';
export { type FormState, formText, type Options } from './html/index.js';
export { functionText } from './javascript/predicates.js';
export { isInDocument } from './json-schema/index.js';
export { documentIndex, documentTable } from './postgresql-documents/index.js';
export {
  allTargetNames,
  type EngineName,
  ledgerOf,
  type TargetName,
  tableTargets,
  targetNames,
  targets,
} from './registry.js';
export {
  type Column,
  constraintName,
  fromColumn,
  type KeyColumn,
  type LookUp,
  ownName,
  placeColumn,
  quoteName,
  storedFields,
  type Table,
  type TableTarget,
  tablesOf,
  toColumn,
  typeField,
} from './sql/index.js';
export type { MadeFile, Target } from './target.js';
