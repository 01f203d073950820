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
  const others = outcomes.filter(({ isPlain }) => !isPlain).map(({ decoding }) => decoding);
  if (others.length === 0) return NOTHING_WRONG;
  const all = (what: 'refused' | 'over' | 'missing') => new Set(others.flatMap((one) => [...one[what]]));
  return {
    refused: all('refused'),
    over: all('over'),
    missing: all('missing'),
    strange: new Map(undeclared === 'drop' ? [] : others.flatMap(({ strange }) => [...strange])),
  };
}

const NONE: ReadonlySet<string> = new Set<string>([]);
const NOTHING_WRONG: Decoding = { refused: NONE, over: NONE, missing: NONE, strange: new Map() };

/** What of all fields is not canonical. */
export function canonicalOf(outcomes: readonly Outcome[]): { readonly notCanonical: ReadonlySet<string> } {
  const others = outcomes.filter(({ canonical }) => canonical.notCanonical.size > 0);
  if (others.length === 0) return { notCanonical: NONE };
  return { notCanonical: new Set(others.flatMap(({ canonical }) => [...canonical.notCanonical])) };
}
