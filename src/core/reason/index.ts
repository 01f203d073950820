export { type Automaton, accepts, automatonOf, coveringWords, readable, wordOfLength } from './automaton/index.js';
export {
  complement,
  damagedCharacters,
  factsOf,
  includes,
  intersect,
  lineEndCharacters,
  NotRegular,
  normalise,
  type PatternFacts,
  type PatternTree,
  type Ranges,
  readPattern,
  readShape,
  sizeOf,
  spaceCharacters,
} from './pattern/index.js';
