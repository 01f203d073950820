export { type Alphabet, alphabetOf } from './alphabet.js';
export { atBoundaries } from './boundaries.js';
export { type Automaton, automatonOf, complementOf, intersection } from './build.js';
export { expressionOf } from './expression.js';
export { textHolding } from './holding.js';
export {
  anyLength,
  bothLengths,
  countWords,
  type Lengths,
  otherLengths,
  shortestLength,
  wordOfLength,
} from './lengths.js';
export { type NearMiss, nearMisses } from './near-misses.js';
export { accepts } from './run.js';
export { difference, type TransitionTable, tableOf } from './table.js';
export { coveringWords, drawWord, fewest, movesOf, Routes, rangeWords, readable, transitionWords } from './words.js';
