export { canonicaliseAlone } from './canonicalise.js';
export { type Broken, Checking } from './check.js';
export { type GivenClock, type Reading as ClockReading, readClock } from './clock.js';
export {
  behindThePage,
  decide,
  decideAsking,
  decideBy,
  type How,
  judgingFor,
  read,
  verdictOf,
} from './decide.js';
export { type Decoding, decodeAlone, isRecord, shaped } from './decode.js';
export { derive } from './derive.js';
export { encode } from './encode.js';
export { entriesOf, readForm, topOf } from './form.js';
export { type JudgedBy, judgedBy, type ReadBy, type Taken } from './judged-by.js';
export { instancesOf, type Judged, type Matchers, type Store, valueIn } from './judging.js';
export { mostItems, mostKeys, mostNames, mostUnits } from './limits.js';
export { loggable, masked, maskedAnswer, secretsIn } from './secrets.js';
export { storedRow } from './stored.js';
export { uniqueKeysOf } from './unique-keys.js';
export {
  type Checked,
  type CheckOptions,
  type FieldWords,
  messagesIn,
  type Validator,
  validator,
  wordsOf,
} from './validator.js';
