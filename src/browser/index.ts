export { type BindOptions, type Bound, bind } from './bind.js';
export { recordSoFar } from './record-so-far.js';
export { violationsIn } from './sending.js';
export type { Checked, How, Rules, Violation } from './types.js';
