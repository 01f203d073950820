export { type BindOptions, type Bound, bind } from './bind.js';
export { violationsIn } from './sending.js';
export type { Checked, How, Rules, Violation } from './types.js';
