export { type Automaton, automatonOf } from './build.js';
export { accepts } from './run.js';
export { difference, type TransitionTable, tableOf } from './table.js';
export { coveringWords, readable, wordOfLength } from './words.js';
