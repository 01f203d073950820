import type { Schema } from '../core/declare/index.js';
import type { Tolerance } from '../core/model/index.js';
import type { Layer } from '../layers/layer.js';
import { type Fidelities, type Judgement, judgeBy } from './judge.js';
import type { Answered } from './run.js';
import { asRead, withStandIn } from './tolerances/readings.js';

/** Holds one answer against the expected verdict; what differs, and what the layer's tolerances allow of that. */
export function judgeAnswer(
  answered: Answered,
  layer: Layer,
  fidelities: Fidelities,
  model: Schema[number],
): Judgement {
  const plain = judgeBy(answered, layer, fidelities, model, new Set());
  if (typeof plain === 'string' || plain.known) return plain;
  const tolerated = allowedBy(layer.tolerates ?? [], answered, layer, fidelities, model);
  return tolerated === null ? plain : { tolerated, difference: plain };
}

/**
 * The fewest of some tolerances with which an answer agrees: one alone where that does, else those that are all needed.
 * Null where it differs with all of them.
 */
export function allowedBy(
  granted: readonly Tolerance[],
  answered: Answered,
  layer: Layer,
  fidelities: Fidelities,
  model: Schema[number],
): readonly Tolerance[] | null {
  const agrees = (some: readonly Tolerance[]) => agreesWith(new Set(some), answered, layer, fidelities, model);
  if (granted.length === 0 || !agrees(granted)) return null;
  const alone = granted.find((one) => agrees([one]));
  if (alone !== undefined) return [alone];
  return granted.reduce<readonly Tolerance[]>((needed, one) => {
    const others = needed.filter((other) => other !== one);
    return agrees(others) ? others : needed;
  }, granted);
}

function agreesWith(
  lenient: ReadonlySet<Tolerance>,
  { case: one, layer: name, answer }: Answered,
  layer: Layer,
  fidelities: Fidelities,
  model: Schema[number],
): boolean {
  const read = asRead(one, lenient, model);
  const isReplaced = lenient.has('replacementCharacter') && 'accepted' in answer;
  const shown = isReplaced ? { accepted: withStandIn(answer.accepted) } : answer;
  return judgeBy({ case: read, layer: name, answer: shown }, layer, fidelities, model, lenient) === 'agrees';
}
