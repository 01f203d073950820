export {
  type Catalogue,
  fillIn,
  messageIn,
  type Phrase,
  phrase,
  type WordKey,
  type Words,
  wordKeys,
} from './catalogue.js';
export { english } from './catalogues/english.js';
export { polish } from './catalogues/polish.js';
export { nearest } from './nearest.js';
export { type Problem, ProblemError, problemsOf } from './problem.js';
export { problems } from './problems/index.js';
