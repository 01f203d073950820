export { damagedCharacters, lineEndCharacters, spaceCharacters } from './characters.js';
export { factsOf, type PatternFacts } from './facts.js';
export { anyCharacter, complement, includes, intersect, normalise, type Ranges, sizeOf } from './ranges.js';
export { readPattern, readShape } from './read.js';
export { NotRegular, type PatternTree } from './tree.js';
