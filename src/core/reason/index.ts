export { type Automaton, accepts, automatonOf, coveringWords, readable, wordOfLength } from './automaton/index.js';
export {
  complement,
  factsOf,
  includes,
  intersect,
  NotRegular,
  normalise,
  type PatternFacts,
  type PatternTree,
  type Ranges,
  readPattern,
  sizeOf,
} from './pattern/index.js';
