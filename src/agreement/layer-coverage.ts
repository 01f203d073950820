import type { Schema } from '../core/declare/index.js';
import type { Layer } from '../layers/layer.js';
import { type Answered, whyNotFor } from './run.js';

/** How many cases of a ruleset a layer answered, and why not the others. */
export interface LayerCoverage {
  readonly layer: string;
  readonly ruleset: string;
  readonly cases: number;
  readonly answered: number;
  /** Why cases are not applicable, the most frequent reason first. */
  readonly notApplicable: readonly { readonly reason: string; readonly cases: number }[];
  /** It answered none, or few of those that its kind of layer takes: agreement in the rest says little. */
  readonly silent: boolean;
}

/** A layer that answers fewer than one in so many of the cases that it takes is silent. */
const FEW = 10;

/** The coverage of each ruleset in each layer that has it. */
export function layerCoverage(
  answered: readonly Answered[],
  layers: { readonly [name: string]: Layer },
  schema: Schema,
): readonly LayerCoverage[] {
  return Object.entries(layers).flatMap(([name, layer]) => {
    const given = answered.filter((one) => one.layer === name);
    return schema
      .filter(({ ruleset }) => layer.rulesets?.includes(ruleset) !== false)
      .flatMap(({ ruleset }) => {
        const own = given.filter(({ case: one }) => one.ruleset === ruleset);
        return own.length === 0 ? [] : [coverageOf(name, ruleset, own, layer, schema)];
      });
  });
}

function coverageOf(
  name: string,
  ruleset: string,
  own: readonly Answered[],
  layer: Layer,
  schema: Schema,
): LayerCoverage {
  const reasons = new Map<string, number>();
  for (const { answer } of own) {
    if ('notApplicable' in answer) reasons.set(answer.notApplicable, (reasons.get(answer.notApplicable) ?? 0) + 1);
  }
  const notApplicable = [...reasons]
    .map(([reason, cases]) => ({ reason, cases }))
    .sort((one, other) => other.cases - one.cases);
  const takes = own.filter(({ case: one }) => whyNotFor(layer, one, schema) === null).length;
  const count = own.filter(({ answer }) => !('notApplicable' in answer)).length;
  const silent = count === 0 || count * FEW < takes;
  return { layer: name, ruleset, cases: own.length, answered: count, notApplicable, silent };
}
