import type { Schema } from '../core/declare/index.js';
import type { Entry } from '../core/model/index.js';
import { targetNames, targets } from '../core/targets/index.js';

/** What every constraint became in every target. */
export function ledgerOf(schema: Schema): readonly Entry[] {
  return targetNames.flatMap((name) => targets[name].ledger(schema));
}
