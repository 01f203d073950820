import type { UntestedRule } from '../../core/cases/index.js';
import type { Schema } from '../../core/declare/index.js';
import type { Case, Entry } from '../../core/model/index.js';
import { type Layer, modelOf, type Surroundings } from '../../layers/layer.js';
import { withOtherStart } from '../other-start.js';
import { type Answered, askAll, type Progress } from '../run.js';
import {
  type Cause,
  causesOf,
  type JudgedAnswers,
  judgeAnswers,
  type Looked,
  type ProbeResult,
  resultOf,
} from '../summary.js';
import { lookCloser } from './closer.js';
import { guess, isAbout } from './guess.js';

/** At most so many right answers are held against a suspected mistake. */
const MOST_HELD = 300;

/**
 * Gives every case to every layer, and takes a closer look at each disagreement: asks again whether it is always there,
 * looks for the shortest input that shows it, and for the mistake that accounts for it.
 *
 * @param asked the rulesets that are told of
 * @param others the same cases from another start, for layers that refuse the first one's
 * @param untested the rules that no case accepts, or no case refuses: part of the result
 * @param stop asks to stop: what is under way is finished and undone, and its reason thrown
 * @throws what a layer's `open` throws: ProblemError where it can't be reached
 */
export async function probeLayers(
  cases: readonly Case[],
  layers: { readonly [name: string]: Layer },
  surroundings: Surroundings,
  asked: Schema,
  ledger: readonly Entry[],
  progress: Progress = () => {},
  stop: AbortSignal | null = null,
  untested: readonly UntestedRule[] = [],
  others: () => readonly Case[] = () => [],
): Promise<ProbeResult> {
  const first = await askAll(cases, layers, surroundings, progress, stop);
  const judge = (some: readonly Answered[]) => judgeAnswers(some, layers, asked, ledger);
  const answered = await withOtherStart(first, layers, surroundings, judge, others, progress, stop);
  const judged = judgeAnswers(answered, layers, asked, ledger);
  const causes = causesOf(judged.differences, asked);
  const looked = new Map<Cause, Looked>();
  for (const [name, layer] of Object.entries(layers)) {
    const own = causes.filter(({ shortest }) => !shortest.known && shortest.layer === name);
    for (const [cause, closer] of await lookCloser(layer, own, surroundings, ledger, stop)) {
      const likely = closer.flaky === null ? guessFor(cause, judged, asked, layer) : null;
      looked.set(cause, { ...closer, guess: likely });
    }
  }
  return resultOf(judged, causes, layers, asked, ledger, looked, untested);
}

function guessFor(
  cause: Cause,
  { agreeing, tolerated, differences }: JudgedAnswers,
  schema: Schema,
  { can }: Layer,
): string | null {
  const { layer, rule, case: one } = cause.shortest;
  const model = modelOf(one.ruleset, schema);
  // What a table takes of other wires, a server has read before.
  const isNear = (name: string, { ruleset, constraint, wire }: Case) =>
    name === layer && can.wires.includes(wire) && ruleset === one.ruleset && isAbout(rule, constraint, model);
  const right = [...agreeing, ...tolerated]
    .filter((other) => isNear(other.layer, other.case))
    .map((answered) => answered.case);
  const others = differences.filter(
    (other) => !other.known && !cause.differences.includes(other) && isNear(other.layer, other.case),
  );
  return guess(rule, cause.differences, right.slice(0, MOST_HELD), others, model);
}
