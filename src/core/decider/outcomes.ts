import { canonicaliseAlone, type Decoding, decodeAlone, type JudgedBy, type Taken } from '../meaning/index.js';
import type { Model, Wire } from '../model/index.js';
import { copied, type Memory, type Outcome } from './memory.js';

/** What comes of a field at the top: from memory where the very same came before. */
export function outcomeOf(taken: Taken, given: unknown, wire: Wire, by: JudgedBy, memory: Memory): Outcome {
  return memory.of(taken.field, given, wire) ?? decidedAnew(taken, given, wire, by, memory);
}

function decidedAnew(taken: Taken, given: unknown, wire: Wire, by: JudgedBy, memory: Memory): Outcome {
  const { field } = taken;
  const decoding = decodeAlone(taken, given, wire, by);
  const { refused, over, missing, strange } = decoding;
  const outcome: Outcome = {
    raw: copied(given),
    decoding,
    isPlain: refused.size + over.size + missing.size + strange.size === 0,
    canonical: canonicaliseAlone(field, decoding, wire),
    faults: null,
  };
  memory.note(field, wire, outcome);
  return outcome;
}

/** How a record came off a wire, of which all fields at the top are known. */
export function decodingOf(outcomes: readonly Outcome[], { undeclared }: Model): Decoding {
  let [refused, over, missing, strange] = [NONE, NONE, NONE, NO_KEYS];
  for (const { isPlain, decoding } of outcomes) {
    if (isPlain) continue;
    refused = joined(refused, decoding.refused);
    over = joined(over, decoding.over);
    missing = joined(missing, decoding.missing);
    if (decoding.strange.size > 0 && undeclared !== 'drop') strange = new Map([...strange, ...decoding.strange]);
  }
  return { refused, over, missing, strange };
}

const NONE: ReadonlySet<string> = new Set<string>([]);
const NO_KEYS: Decoding['strange'] = new Map<string, readonly string[]>([]);

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
