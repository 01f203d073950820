export { rowsBeside } from './beside.js';
export { type CaseStatements, caseStatements, isForTable, isWithoutStore } from './case-statements.js';
export { type Expectation, expectationOf } from './expectation.js';
export { judgeAnswer, type MismatchKind, visible } from './judge.js';
export { askOne, type LayerAnswer, type OneRecord } from './one-record.js';
export { probeLayers } from './probe/index.js';
export { recordStatements } from './record-statements.js';
export { type Answered, askAll, judgedAlone, type Progress } from './run.js';
export { type Mismatch, type ProbeResult, type RuleRow, type SetupFault, type Status, summarise } from './summary.js';
