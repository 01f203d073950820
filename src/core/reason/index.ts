export {
  type Alphabet,
  type Automaton,
  accepts,
  alphabetOf,
  anyLength,
  automatonOf,
  bothLengths,
  complementOf,
  countWords,
  coveringWords,
  difference,
  intersection,
  type Lengths,
  otherLengths,
  readable,
  shortestLength,
  type TransitionTable,
  tableOf,
  wordOfLength,
} from './automaton/index.js';
export {
  type Attack,
  type Danger,
  dangerOf,
  isExponential,
  isProvedLinear,
  type SafeForm,
  safeFormOf,
} from './danger/danger.js';
export { follows } from './danger/follow.js';
export type { Positions } from './danger/positions.js';
export {
  complement,
  damagedCharacters,
  factsOf,
  includes,
  intersect,
  lineEndCharacters,
  mostStates,
  NotRegular,
  normalise,
  type PatternFacts,
  type PatternPart,
  type PatternTree,
  patternsIn,
  type Ranges,
  readParts,
  readPattern,
  readShape,
  sizeOf,
  spaceCharacters,
  TooLarge,
} from './pattern/index.js';
export { type Decision, Reasoner, type Wish } from './solve/reasoner.js';
export type { Example } from './solve/record.js';
export { Languages } from './text/languages.js';
export { automatonOfParts, automatonOfPattern } from './whole.js';
