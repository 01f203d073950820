import { caseOf } from '../core/cases/index.js';
import type { Schema } from '../core/declare/index.js';
import { decideAsking, masked, maskedAnswer } from '../core/meaning/index.js';
import { type Answer, type Entry, type LookUps, tolerances, type Verdict, type Wire } from '../core/model/index.js';
import type { Layer, Surroundings } from '../layers/layer.js';
import { rowsBeside } from './beside.js';
import { fidelitiesOf, type Judgement } from './judge.js';
import { judgeAnswer } from './judge-answer.js';
import { askAll } from './run.js';

/** What one layer said of a record; `why` tells how it differs, where it does. */
export interface LayerAnswer {
  readonly name: string;
  readonly answer: Answer;
  readonly status: 'agrees' | 'known' | 'tolerated' | 'disagrees' | 'not applicable';
  readonly why: string | null;
}

/** What every layer says of one record. */
export interface OneRecord {
  readonly ruleset: string;
  readonly input: unknown;
  readonly expected: Verdict;
  /** The rows that are taken to be stored, so that references find their targets. */
  readonly before: readonly { readonly ruleset: string; readonly key: string }[];
  readonly layers: readonly LayerAnswer[];
  /** What came of the rules that ask someone else. */
  readonly lookUps: readonly LookedUp[];
}

/** A rule whose function the server calls: its result, or why it was not called. */
export interface LookedUp {
  readonly rule: string;
  readonly outcome: 'holds' | 'broken' | 'not given' | 'not called';
  readonly message: string;
}

/**
 * Gives one record to every layer: on its own wire where the layer takes that, otherwise on one that it takes.
 *
 * @param lookUps what rules ask someone else
 * @throws what a layer's `open` throws: ProblemError where it can't be reached
 */
export async function askOne(
  input: unknown,
  wire: Wire,
  model: Schema[number],
  layers: { readonly [name: string]: Layer },
  surroundings: Surroundings,
  ledger: readonly Entry[],
  lookUps: LookUps = {},
): Promise<OneRecord> {
  const { schema } = surroundings;
  const beside = await rowsBeside(layers, surroundings);
  const answers: LayerAnswer[] = [];
  for (const [name, layer] of Object.entries(layers)) {
    const on = layer.can.wires.includes(wire) ? wire : layer.can.wires[0];
    const [answered] = await askAll([caseOf(input, wire, model, schema, on, beside)], { [name]: layer }, surroundings);
    if (answered === undefined) throw new Error(`no answer of ${name}`);
    const judged = judgeAnswer(answered, layer, fidelitiesOf(layer, ledger), model);
    const status =
      typeof judged === 'string' ? judged : 'tolerated' in judged ? 'tolerated' : judged.known ? 'known' : 'disagrees';
    answers.push({
      name,
      answer: maskedAnswer(model, answered.answer),
      status,
      why: whyOf(judged),
    });
  }
  const { expected, before } = caseOf(input, wire, model, schema, wire, beside);
  return {
    ruleset: model.ruleset,
    input: masked(model, input),
    expected: maskedAnswer(model, expected),
    before: before.map(({ ruleset, row }) => {
      const key = schema.find((other) => other.ruleset === ruleset)?.key;
      return { ruleset, key: String(key == null ? '' : row[key]) };
    }),
    layers: answers,
    lookUps: await lookedUp(model, input, wire, lookUps),
  };
}

function whyOf(judged: Judgement): string | null {
  if (typeof judged === 'string') return null;
  return 'tolerated' in judged ? judged.tolerated.map((one) => tolerances[one]).join('; ') : judged.reason;
}

async function lookedUp(
  model: Schema[number],
  input: unknown,
  wire: Wire,
  lookUps: LookUps,
): Promise<readonly LookedUp[]> {
  const asking = model.constraints.flatMap(({ id, message, predicate }) =>
    predicate.op === 'asks' ? [{ rule: id, message, name: predicate.name }] : [],
  );
  return Promise.all(
    asking.map(async ({ rule, message, name }): Promise<LookedUp> => {
      const given = lookUps[name];
      if (given === undefined) return { rule, outcome: 'not given', message };
      let isAsked = false;
      const noted = (...values: unknown[]) => {
        isAsked = true;
        return given(...values);
      };
      const others = Object.fromEntries(asking.map((one) => [one.name, () => true]));
      const verdict = await decideAsking(model, input, wire, { lookUps: { ...others, [name]: noted } });
      const isBroken = 'refused' in verdict && verdict.refused.some((one) => one.rule === rule);
      return { rule, outcome: isBroken ? 'broken' : isAsked ? 'holds' : 'not called', message };
    }),
  );
}
