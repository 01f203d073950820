export { hasBoundaries, withoutBoundaries } from './boundary.js';
export { damagedCharacters, lineEndCharacters, spaceCharacters } from './characters.js';
export { factsOf, type PatternFacts } from './facts.js';
export { patternsIn } from './found.js';
export { inSequence, printPattern } from './print.js';
export { anyCharacter, complement, includes, intersect, normalise, type Ranges, sizeOf } from './ranges.js';
export { type PatternPart, readMarked, readMarkedParts, readShape, wordCharacters } from './read.js';
export { mostStates, NotRegular, orConstruct, type PatternTree, TooLarge } from './tree.js';
