import { whiteSpace } from '../../kinds/index.js';
import { normalise, type Ranges } from './ranges.js';

/** What no layer can carry, but for lone surrogates, which are in no set of characters. */
export const damagedCharacters: Ranges = [
  [0, 0],
  [0xfffd, 0xfffd],
];
/** What `trim` takes off. */
export const spaceCharacters: Ranges = normalise(whiteSpace.map((point) => [point, point]));
export const lineEndCharacters: Ranges = [
  [0xa, 0xa],
  [0xd, 0xd],
];
