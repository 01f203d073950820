import { Bases } from '../../core/cases/base.js';
import { type CaseSet, caseSetFor } from '../../core/cases/index.js';
import type { Schema } from '../../core/declare/index.js';
import { problemsOf } from '../../core/messages/index.js';
import { Equivalence, type Likeness, type Mutant, mutantsOf } from '../../core/mistakes/index.js';
import { type Case, type Entry, fieldAt, spread } from '../../core/model/index.js';
import { ledgerOf } from '../../core/targets/index.js';
import type { Layer, OpenLayer } from '../../layers/layer.js';
import { type Difference, type Fidelities, fidelitiesOf, judgeBy } from '../judge.js';
import { type Progress, whyNotFor } from '../run.js';
import { type Bench, formBench, functionBench, storeBench, tableBench } from './bench.js';
import { isConfirmed } from './confirmed.js';
import { byLayer, firstDifference, type MutantOutcome, type Strength, withoutMarks } from './outcome.js';
import type { Scratch } from './scratch.js';

export interface Measuring {
  /** Databases of nobody's to plant mistakes in. */
  readonly scratches: readonly Scratch[];
  readonly leftOut?: Strength['leftOut'];
  readonly progress?: Progress;
  /** Asks to stop: what was planted is removed, and its reason thrown. */
  readonly stop?: AbortSignal | null;
  /** The cases of the rulesets, where they are there already. */
  readonly sets?: readonly CaseSet[];
  /** So many mistakes are planted in each layer of a ruleset, spread over all that there are. */
  readonly most?: number;
  /** Gives all cases to mutants that are proved to make no difference, too: a case that tells one apart is unsound. */
  readonly triesProofs?: boolean;
}

/** So many cases are given first, those about the rule that the mistake is in; most mistakes need no more. */
const FIRST = 60;

/**
 * Plants mistakes in every compiled layer of some rulesets, one at a time, and sees whether the cases tell. What they do
 * not tell is proved to make no difference, left undecided with the reason, or a survivor.
 */
export async function measureStrength(asked: Schema, schema: Schema, measuring: Measuring): Promise<Strength> {
  const { scratches, leftOut = [], progress = () => {}, stop = null, triesProofs = false, sets = [] } = measuring;
  const { most = Number.POSITIVE_INFINITY } = measuring;
  const bases = new Bases(schema);
  const ledger = ledgerOf(schema);
  const mutants: MutantOutcome[] = [];
  const unsound: string[] = [];
  let count = 0;
  for (const model of asked) {
    const own = sets.find(({ ruleset }) => ruleset === model.ruleset) ?? caseSetFor(model, schema, bases);
    const { cases, crowdedTargets } = own;
    count += cases.length;
    unsound.push(...cases.filter((one) => !isConfirmed(one, model)).map(({ id }) => id));
    const equivalence = new Equivalence(model, schema, ledger, crowdedTargets);
    const benches = [
      functionBench(model, schema),
      storeBench(model, schema),
      formBench(model, schema),
      ...scratches.map((scratch) => tableBench(model, schema, scratch)),
    ];
    for (const bench of benches) {
      const found = await measureBench(bench, model, schema, cases, {
        equivalence,
        ledger,
        progress,
        stop,
        triesProofs,
        most,
      });
      mutants.push(...found.mutants);
      unsound.push(...found.unsound);
    }
  }
  const mistakes = new Set(mutants.map(({ mistake }) => mistake));
  return {
    rulesets: asked.map(({ ruleset }) => ruleset),
    cases: count,
    mistakes: mistakes.size,
    layers: byLayer(mutants),
    mutants,
    leftOut,
    unsound,
  };
}

interface Surrounding {
  readonly equivalence: Equivalence;
  readonly ledger: readonly Entry[];
  readonly progress: Progress;
  readonly stop: AbortSignal | null;
  readonly triesProofs: boolean;
  readonly most: number;
}

async function measureBench(
  bench: Bench,
  model: Schema[number],
  schema: Schema,
  all: readonly Case[],
  { equivalence, ledger, progress, stop, triesProofs, most }: Surrounding,
): Promise<{ readonly mutants: readonly MutantOutcome[]; readonly unsound: readonly string[] }> {
  const { name, layer, text } = bench;
  const fidelities = fidelitiesOf({ ...layer, compiled: true }, ledger);
  const judged = new Judged(layer, fidelities, model);
  const applicable = all.filter((one) => whyNotFor(layer, one, schema) === null);
  const unsound = new Set<string>();
  const soundOf = async (some: readonly Case[]) => {
    const sound = await bench.open(text, null);
    try {
      for await (const difference of judged.differences(sound, some)) unsound.add(difference.case.id);
    } finally {
      await sound.close();
    }
    return some.filter(({ id }) => !unsound.has(id));
  };
  // Where all mistakes are planted, most cases catch some; where a few are, only those that do are held against the layer.
  const isSampled = Number.isFinite(most);
  const cases = isSampled ? applicable : await soundOf(applicable);
  const planted = spread(
    mutantsOf(model, [name], ledger, () => text),
    most,
  );
  const outcomes: MutantOutcome[] = [];
  const seen = new Set([withoutMarks(text)]);
  for (const [at, mutant] of planted.entries()) {
    stop?.throwIfAborted();
    progress(`${model.ruleset} in ${name}`, at, planted.length);
    const mutated = bench.textOf(mutant);
    const isInText = !('handling' in mutant.plant);
    if (isInText && seen.has(withoutMarks(mutated))) continue;
    if (isInText) seen.add(withoutMarks(mutated));
    const { id, mistake, words, ruleset, constraint } = mutant;
    const told = { id, layer: name, mistake, words, ruleset, constraint };
    const shown = isInText ? firstDifference(text, mutated) : { was: '', is: words };
    const likeness = () => equivalence.of(mutant, { tellsAll: layer.can.allViolations, named: name === 'javascript' });
    const ordered = casesFor(mutant, cases, model);
    const fate = async (some: readonly Case[]) => fateOf(await opened(bench, mutated, mutant), judged, some, likeness);
    let found = await fate(ordered);
    while (isSampled && found?.outcome === 'killed') {
      const by = found.by;
      if ((await soundOf(ordered.filter(({ id }) => id === by))).length > 0) break;
      found = await fate(ordered.filter(({ id }) => !unsound.has(id)));
    }
    // What the engine itself refuses to make, nobody ships.
    if (found !== null) outcomes.push({ ...told, ...found, shown });
    if (found?.outcome === 'equivalent' && triesProofs) {
      const told = await firstOf(judged, await opened(bench, mutated, mutant), cases);
      if (told !== null) unsound.add(`${id}, which is proved to make no difference, by ${told.case.id}`);
    }
  }
  return { mutants: outcomes, unsound: [...unsound].map((id) => `${name}: ${id}`) };
}

/** Holds answers against what is expected. */
class Judged {
  readonly #layer: Bench['layer'];
  readonly #fidelities: Fidelities;
  readonly #model: Schema[number];

  constructor(layer: Bench['layer'], fidelities: Fidelities, model: Schema[number]) {
    this.#layer = layer;
    this.#fidelities = fidelities;
    this.#model = model;
  }

  async *differences(opened: OpenLayer, cases: readonly Case[]): AsyncIterable<Difference> {
    for await (const [one, answer] of opened.answer(cases)) {
      const layer = { ...this.#layer, compiled: true } as Layer;
      const judged = judgeBy({ case: one, layer: '', answer }, layer, this.#fidelities, this.#model, new Set());
      if (typeof judged !== 'string' && !judged.known) yield judged;
    }
  }
}

/** The layer with the mistake in it; null where the engine refuses to make it. */
async function opened(bench: Bench, text: string, mutant: Mutant): Promise<OpenLayer | null> {
  return bench.open(text, mutant).catch((error: unknown) => {
    if (problemsOf(error)?.some(({ code }) => code === 'layer_unreachable') === true) return null;
    throw error;
  });
}

async function firstOf(judged: Judged, layer: OpenLayer | null, cases: readonly Case[]): Promise<Difference | null> {
  if (layer === null) return null;
  try {
    for await (const difference of judged.differences(layer, cases)) return difference;
    return null;
  } finally {
    await layer.close();
  }
}

/** What becomes of a mutant: the likely cases first, then a proof that it is none, then all the others. */
async function fateOf(
  layer: OpenLayer | null,
  judged: Judged,
  cases: readonly Case[],
  likenessOf: () => Likeness,
): Promise<Pick<MutantOutcome, 'outcome' | 'by' | 'why'> | null> {
  if (layer === null) return null;
  const killed = ({ case: one }: Difference) => ({ outcome: 'killed', by: one.id, why: one.reason }) as const;
  try {
    for await (const difference of judged.differences(layer, cases.slice(0, FIRST))) return killed(difference);
    const likeness = likenessOf();
    if (likeness.is === 'equivalent') return { outcome: 'equivalent', by: null, why: likeness.why };
    for await (const difference of judged.differences(layer, cases.slice(FIRST))) return killed(difference);
    if (likeness.is === 'undecided') return { outcome: 'undecided', by: null, why: likeness.why };
    return { outcome: 'survived', by: null, why: 'a record tells them apart' };
  } finally {
    await layer.close();
  }
}

/** The cases about the mistaken rule first, then those about its fields. */
function casesFor({ constraint }: Mutant, cases: readonly Case[], model: Schema[number]): readonly Case[] {
  const rule = model.constraints.find(({ id }) => id === constraint);
  const paths = rule === undefined ? [] : rule.owner === '' ? rule.subjects : [rule.owner];
  const fields = paths.map((path) => `${model.ruleset}.${fieldAt(model, path).path}.`);
  const rank = (one: Case) => {
    if (one.constraint === constraint) return 0;
    return fields.some((field) => one.constraint.startsWith(field)) ? 1 : 2;
  };
  return [0, 1, 2].flatMap((wanted) => cases.filter((one) => rank(one) === wanted));
}
