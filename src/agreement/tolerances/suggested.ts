import type { Schema } from '../../core/declare/index.js';
import { type Entry, type Tolerance, toleranceNames } from '../../core/model/index.js';
import { type Layer, modelOf } from '../../layers/layer.js';
import { fidelitiesOf } from '../judge.js';
import { allowedBy } from '../judge-answer.js';
import type { Cause } from '../summary.js';

/** A tolerance that a layer does not have, and what it would explain. */
export interface SuggestedTolerance {
  readonly layer: string;
  readonly tolerance: Tolerance;
  /** So many disagreements would not be reported, with so many answers. */
  readonly disagreements: number;
  readonly answers: number;
}

/**
 * The tolerances that would explain disagreements of a layer that is written by hand, each counted beside those before it:
 * the one that explains most first. A disagreement counts where all of its answers are explained.
 */
export function suggestedTolerances(
  name: string,
  layer: Layer,
  causes: readonly Cause[],
  schema: Schema,
  ledger: readonly Entry[],
): readonly SuggestedTolerance[] {
  if (layer.compiled === true) return [];
  const fidelities = fidelitiesOf(layer, ledger);
  let granted = layer.tolerates ?? [];
  let left = causes.filter(({ shortest }) => shortest.layer === name && !shortest.known);
  const suggested: SuggestedTolerance[] = [];
  const isExplained = ({ differences }: Cause, by: readonly Tolerance[]) =>
    differences.every(({ case: one, observed }) => {
      const answered = { case: one, layer: name, answer: observed };
      return allowedBy(by, answered, layer, fidelities, modelOf(one.ruleset, schema)) !== null;
    });
  for (;;) {
    const candidates = toleranceNames
      .filter((tolerance) => !granted.includes(tolerance))
      .map((tolerance) => ({
        tolerance,
        explained: left.filter((cause) => isExplained(cause, [...granted, tolerance])),
      }))
      .sort((one, other) => other.explained.length - one.explained.length);
    const [best] = candidates;
    if (best === undefined || best.explained.length === 0) return suggested;
    const answers = best.explained.reduce((sum, { differences }) => sum + differences.length, 0);
    suggested.push({ layer: name, tolerance: best.tolerance, disagreements: best.explained.length, answers });
    granted = [...granted, best.tolerance];
    left = left.filter((cause) => !best.explained.includes(cause));
  }
}
