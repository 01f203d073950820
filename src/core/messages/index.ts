export { type Problem, ProblemError, problemsOf } from './problem.js';
export { problems } from './problems.js';
export { violationMessage } from './violations.js';
