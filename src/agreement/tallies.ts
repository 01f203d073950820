import type { Schema } from '../core/declare/index.js';
import type { Entry } from '../core/model/index.js';
import type { Layer } from '../layers/layer.js';
import type { Answered } from './run.js';
import type { Cause } from './summary.js';
import type { ToleratedAnswer } from './tolerances/counted.js';

export type Status = 'tested' | 'absent' | 'mismatch' | 'breakdown' | 'untested';

/** The results of one rule in one layer: numbers of cases. */
export interface RuleRow {
  readonly rule: string;
  readonly layer: string;
  /** `tested` where all cases agree, or differ as the ledger documents. */
  readonly status: Status;
  readonly cases: number;
  readonly agreeing: number;
  readonly known: number;
  /** Those that differ as the layer's tolerances allow. */
  readonly tolerated: number;
  readonly disagreeing: number;
  readonly breakdowns: number;
}

/** A layer in which most answers are one and the same breakdown: the set-up is at fault, rather than the rules. */
export interface SetupFault {
  readonly layer: string;
  readonly reason: string;
  readonly breakdowns: number;
  readonly answers: number;
}

function cell(rule: string, layer: string): string {
  return `${rule} ${layer}`;
}

/** The layers of whose answers more than half are one breakdown. */
export function setupFaultsOf(answered: readonly Answered[], causes: readonly Cause[]): readonly SetupFault[] {
  return causes.flatMap(({ differences, shortest }): readonly SetupFault[] => {
    const { layer, observed } = shortest;
    if (!('breakdown' in observed)) return [];
    const answers = answered.filter((one) => one.layer === layer && !('notApplicable' in one.answer)).length;
    if (2 * differences.length <= answers) return [];
    return [{ layer, reason: observed.breakdown, breakdowns: differences.length, answers }];
  });
}

type Tally = { -readonly [K in 'agreeing' | 'known' | 'tolerated' | 'disagreeing' | 'breakdowns']: RuleRow[K] };

const NO_CASES: Tally = { agreeing: 0, known: 0, tolerated: 0, disagreeing: 0, breakdowns: 0 };

/** How the cases about each rule came out in each layer. What another case shows already is not counted once more. */
export function talliesOf(
  agreeing: readonly Answered[],
  tolerated: readonly ToleratedAnswer[],
  causes: readonly Cause[],
): ReadonlyMap<string, Tally> {
  const tallies = new Map<string, Tally>();
  const count = (rule: string, layer: string, what: keyof Tally) => {
    const tally = tallies.get(cell(rule, layer)) ?? { ...NO_CASES };
    tally[what] += 1;
    tallies.set(cell(rule, layer), tally);
  };
  for (const { case: one, layer } of agreeing) count(one.constraint, layer, 'agreeing');
  for (const { case: one, layer } of tolerated) count(one.constraint, layer, 'tolerated');
  for (const { rule, layer, known, kind } of causes.flatMap(({ differences }) => differences))
    count(rule, layer, known ? 'known' : kind === 'breakdown' ? 'breakdowns' : 'disagreeing');
  return tallies;
}

/** A row for each rule and layer. */
export function ruleRows(
  schema: Schema,
  layers: { readonly [name: string]: Layer },
  ledger: readonly Entry[],
  tallies: ReadonlyMap<string, Tally>,
): readonly RuleRow[] {
  const rules = schema.flatMap(({ constraints }) => constraints.map(({ id }) => id));
  const fidelities = new Map(ledger.map(({ constraint, target, fidelity }) => [cell(constraint, target), fidelity]));
  return rules.flatMap((rule) =>
    Object.entries(layers).map(([layer, { target }]): RuleRow => {
      const tally = tallies.get(cell(rule, layer)) ?? NO_CASES;
      const { agreeing, known, tolerated, disagreeing, breakdowns } = tally;
      const isAbsent = fidelities.get(cell(rule, target))?.is === 'absent';
      const isAsked = agreeing + known + tolerated > 0;
      const status =
        disagreeing > 0
          ? 'mismatch'
          : breakdowns > 0
            ? 'breakdown'
            : isAbsent
              ? 'absent'
              : isAsked
                ? 'tested'
                : 'untested';
      return { rule, layer, status, cases: agreeing + known + tolerated + disagreeing + breakdowns, ...tally };
    }),
  );
}
