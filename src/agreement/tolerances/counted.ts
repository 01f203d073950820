import type { Tolerance } from '../../core/model/index.js';
import type { Answered } from '../run.js';

/** An answer that differs as the layer's tolerances allow, and those that it needed. */
export interface ToleratedAnswer extends Answered {
  readonly tolerated: readonly Tolerance[];
}

/** How many answers of a layer differ as one of its tolerances allows. */
export interface ToleratedCount {
  readonly layer: string;
  readonly tolerance: Tolerance;
  readonly answers: number;
}

/** The counts of each layer, most answers first. */
export function toleratedCounts(tolerated: readonly ToleratedAnswer[]): readonly ToleratedCount[] {
  const counts = new Map<string, ToleratedCount>();
  for (const { layer, tolerated: needed } of tolerated) {
    for (const tolerance of needed) {
      const key = `${layer} ${tolerance}`;
      counts.set(key, { layer, tolerance, answers: (counts.get(key)?.answers ?? 0) + 1 });
    }
  }
  return [...counts.values()].sort((one, other) => other.answers - one.answers);
}
