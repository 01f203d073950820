import { canonicaliseAlone, type Decoding, decodeAlone, type JudgedBy, type Taken } from '../meaning/index.js';
import type { Model, Wire } from '../model/index.js';
import { copied, type Memory, type Outcome } from './memory.js';

/** What comes of a field at the top: from memory where the very same came before. */
export function outcomeOf(
  taken: Taken,
  given: unknown,
  wire: Wire,
  { model, by, memory }: { readonly model: Model; readonly by: JudgedBy; readonly memory: Memory },
): Outcome {
  const { field } = taken;
  const known = memory.of(field, given, wire);
  if (known !== null) return known;
  const { value, decoding } = decodeAlone(taken, given, wire, by, model);
  const { refused, over, missing, unknownKeys } = decoding;
  const outcome: Outcome = {
    raw: copied(given),
    decoding,
    isPlain: refused.size + over.size + missing.size + unknownKeys.size === 0,
    canonical: canonicaliseAlone(field, value, decoding, wire),
    faults: null,
  };
  memory.note(field, wire, outcome);
  return outcome;
}

/** How a record came off a wire, of which all fields at the top are known. */
export function decodingOf(outcomes: readonly Outcome[]): Decoding {
  let [refused, over, missing, unknownKeys] = [NONE, NONE, NONE, NO_KEYS];
  for (const { isPlain, decoding } of outcomes) {
    if (isPlain) continue;
    refused = joined(refused, decoding.refused);
    over = joined(over, decoding.over);
    missing = joined(missing, decoding.missing);
    if (decoding.unknownKeys.size > 0) unknownKeys = new Map([...unknownKeys, ...decoding.unknownKeys]);
  }
  return { refused, over, missing, unknownKeys };
}

const NONE: ReadonlySet<string> = new Set<string>([]);
const NO_KEYS: Decoding['unknownKeys'] = new Map<string, readonly string[]>([]);

/** Of most fields there is nothing to be joined, and nothing is made then. */
function joined(a: ReadonlySet<string>, b: ReadonlySet<string>): ReadonlySet<string> {
  if (b.size === 0) return a;
  return a.size === 0 ? b : new Set([...a, ...b]);
}

/** What of all fields is not canonical. */
export function notCanonicalIn(outcomes: readonly Outcome[]): ReadonlySet<string> {
  let found = NONE;
  for (const { canonical } of outcomes) found = joined(found, canonical.notCanonical);
  return found;
}
