export { type CompileResult, compileText } from './compile-text.js';
export { explainText } from './explain-text.js';
export { ledgerMarkdown } from './ledger-markdown.js';
export { probeText } from './probe-text.js';
export { problemsText } from './problems-text.js';
export { reviewText } from './review-text.js';
export { sarifText } from './sarif.js';
export type { Look } from './table.js';
export { tryText } from './try-text.js';
