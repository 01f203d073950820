import type { Schema } from '../core/declare/index.js';
import { decide } from '../core/meaning/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import { type Answer, type Case, enforcers, type Operation, type Verdict } from '../core/model/index.js';
import { type Layer, modelOf, rowFor, type Surroundings } from '../layers/layer.js';
import { openLayer } from './open-layer.js';

export interface Answered {
  readonly case: Case;
  readonly layer: string;
  readonly answer: Answer;
}

/** Told before a layer is opened and after each answer: how many of how many it has given. */
export type Progress = (layer: string, done: number, of: number) => void;

/** So many answers may come before others get their turn: an engine in this process leaves none, and nobody could stop it. */
const AT_A_STRETCH = 50;

/**
 * Gives every case to every layer, one layer after the other. A layer is closed whatever happens.
 *
 * @param stop asks to stop: what is under way is finished and undone, and its reason thrown
 * @throws what a layer's `open` throws: ProblemError where it can't be reached
 */
export async function askAll(
  cases: readonly Case[],
  layers: { readonly [name: string]: Layer },
  surroundings: Surroundings,
  progress: Progress = () => {},
  stop: AbortSignal | null = null,
): Promise<readonly Answered[]> {
  const answers: Answered[] = [];
  for (const [name, layer] of Object.entries(layers)) {
    const wanted: Case[] = [];
    const clock = new Date().toISOString();
    for (const given of cases) {
      const one = layer.can.ownClock === true ? atInstant(given, clock, surroundings.schema) : given;
      const why = whyNotFor(layer, one, surroundings.schema);
      if (why === null) wanted.push(one);
      else answers.push({ case: one, layer: name, answer: { notApplicable: why } });
    }
    if (wanted.length === 0) continue;
    progress(name, 0, wanted.length);
    const opened = await openLayer(name, layer, surroundings);
    try {
      let done = 0;
      for await (const [one, answer] of opened.answer(wanted)) {
        assertKnownRules(one, answer, name, surroundings.schema);
        answers.push({ case: one, layer: name, answer });
        done += 1;
        progress(name, done, wanted.length);
        if (done % AT_A_STRETCH === 0) await new Promise(setImmediate);
        stop?.throwIfAborted();
      }
    } finally {
      await opened.close();
    }
  }
  return answers;
}

/**
 * A rule that a layer names must be one: a mapping of names that leads nowhere would make every refusal a difference.
 *
 * @throws ProblemError `layer_unfit` for a rule that the ruleset does not have
 */
function assertKnownRules({ ruleset, does }: Case, answer: Answer, layer: string, schema: Schema): void {
  // Of a deletion, a rule of another ruleset is named.
  if (does === 'delete' || !('refused' in answer)) return;
  const { constraints } = modelOf(ruleset, schema);
  const unknown = answer.refused.find(({ rule }) => rule !== null && !constraints.some(({ id }) => id === rule));
  if (unknown === undefined) return;
  const why = `it names the rule ${unknown.rule}, which ${ruleset} does not have; leave the rule out of its mapping where it has codes of its own`;
  throw new ProblemError([problems.layerUnfit(null, layer, why)]);
}

/** A case as it is judged at another time. */
function atInstant(one: Case, instant: string, schema: Schema): Case {
  return judgedAgain({ ...one, clock: { ...one.clock, instant } }, schema);
}

/** A case that is another one than it was, with the verdict that is to be expected now. */
export function judgedAgain(one: Case, schema: Schema): Case {
  return one.does === 'delete' ? one : { ...one, expected: verdictOn(one, modelOf(one.ruleset, schema)) };
}

/** The verdict that the meaning gives a write, with what is stored before. */
export function verdictOn(one: Case, model: Schema[number]): Verdict {
  const { input, wire, does, existing, before, on, clock } = one;
  const store = (of: string) => before.filter((stored) => stored.ruleset === of).map(({ row }) => row);
  const how = { clock, store, existing, partial: does === 'patch' };
  return decide(model, input, wire, on === 'client' ? { ...how, enforcers } : how);
}

/** The same case for whoever knows no stored records: what only they would break is not expected. */
export function judgedAlone(one: Case, schema: Schema): Case {
  const { ruleset, input, wire, does, existing, clock } = one;
  const how = { clock, existing, partial: does === 'patch' };
  return { ...one, before: [], expected: decide(modelOf(ruleset, schema), input, wire, how) };
}

const notDone: { readonly [O in Operation]: string } = {
  insert: 'it takes no new records',
  replace: 'it takes new records only',
  patch: 'it takes no partial updates',
  delete: 'it deletes no rows',
};

/** Why a case is not for a layer, or null where it is. A table takes the other wires' cases as a server hands them on. */
export function whyNotFor(
  { can, rulesets }: Pick<Layer, 'can' | 'rulesets'>,
  one: Case,
  schema: Schema,
): string | null {
  if (rulesets !== null && !rulesets.includes(one.ruleset)) return `it has nothing for ${one.ruleset}`;
  if (!can.on.includes(one.on)) return 'only the page has what it is about';
  if (!can.does.includes(one.does)) return notDone[one.does];
  const isLookup = modelOf(one.ruleset, schema).constraints.some(
    ({ id, stage }) => id === one.constraint && stage === 'lookup',
  );
  if (!can.store && isLookup) return 'it does not know the stored records';
  if (can.wires.includes(one.wire)) return null;
  if (!can.wires.includes('row')) return `it takes no ${one.wire} records`;
  return rowFor(one, schema) === null ? 'the server refuses it and hands on nothing' : null;
}
