import type { UntestedRule } from '../core/cases/index.js';
import type { Schema } from '../core/declare/index.js';
import {
  type Answer,
  type Blame,
  type Case,
  type Constraint,
  type Entry,
  pointerToPath,
  type Verdict,
} from '../core/model/index.js';
import { type Layer, modelOf } from '../layers/layer.js';
import { visible } from './altered-fields.js';
import { isEcho, isExplained } from './explained.js';
import { type Difference, fidelitiesOf, type MismatchKind, wordsOfRefusal } from './judge.js';
import { judgeAnswer } from './judge-answer.js';
import { type LayerCoverage, layerCoverage } from './layer-coverage.js';
import { caseCount } from './other-start.js';
import type { Answered } from './run.js';
import { type RuleRow, ruleRows, type SetupFault, setupFaultsOf, talliesOf } from './tallies.js';
import { type ToleratedAnswer, type ToleratedCount, toleratedCounts } from './tolerances/counted.js';
import { type SuggestedTolerance, suggestedTolerances } from './tolerances/suggested.js';

/** All differences of one cause (rule, layer and kind), shown by the shortest input among them. */
export interface Mismatch {
  readonly case: string;
  readonly ruleset: string;
  /** The blamed field as a JSON Pointer; '' is the record. */
  readonly field: string;
  readonly rule: string;
  readonly layer: string;
  readonly kind: MismatchKind;
  readonly wire: Case['wire'];
  readonly does: Case['does'];
  readonly input: unknown;
  /** The rows that are stored before, and the record that an update or a deletion is about. */
  readonly before: Case['before'];
  readonly existing: Case['existing'];
  readonly expected: Verdict;
  readonly observed: Answer;
  readonly reason: string;
  /** What the shortest case is: the side of which limit, the spelling of what. */
  readonly shows: string;
  /** How many cases show it. */
  readonly cases: number;
  /** All of them, with what the layer answered. */
  readonly inputs: readonly MismatchInput[];
  /** The mistake that is likely behind it; null where none that is known fits. */
  readonly guess: string | null;
  /** What the rule becomes where it is compiled; null where the target has nothing for it. */
  readonly mend: string | null;
  /** Of so many tries of the same case, so many differed; null where all of them did. */
  readonly flaky: { readonly tries: number; readonly differed: number } | null;
}

/** One of the cases of a mismatch. */
export interface MismatchInput {
  readonly case: string;
  readonly wire: Case['wire'];
  readonly does: Case['does'];
  readonly input: unknown;
  readonly observed: Answer;
}

/** The result of a probe; printed as JSON as it is. */
export interface ProbeResult {
  readonly rulesets: readonly string[];
  readonly layers: readonly { readonly name: string; readonly kind: string }[];
  readonly cases: number;
  readonly answers: number;
  readonly notApplicable: number;
  readonly setupFaults: readonly SetupFault[];
  /** How many cases each layer answered, and why not the others. */
  readonly coverage: readonly LayerCoverage[];
  readonly mismatches: readonly Mismatch[];
  readonly known: readonly Mismatch[];
  /** How many answers differ as a layer's tolerances allow. */
  readonly tolerated: readonly ToleratedCount[];
  /** The tolerances that would explain disagreements. */
  readonly suggested: readonly SuggestedTolerance[];
  readonly byRule: readonly RuleRow[];
  /** Rules that no case accepts, or no case refuses, and why. */
  readonly untested: readonly UntestedRule[];
}

/** Answers, held against what is expected. */
export interface JudgedAnswers {
  readonly answered: readonly Answered[];
  readonly differences: readonly Difference[];
  /** The answers that agree. */
  readonly agreeing: readonly Answered[];
  readonly tolerated: readonly ToleratedAnswer[];
  readonly notApplicable: number;
}

/** All differences of one cause, and the one that shows it best. */
export interface Cause {
  readonly key: string;
  readonly differences: readonly Difference[];
  readonly shortest: Difference;
}

/** What a closer look at a cause found. */
export interface Looked {
  /** The difference that shows it best now. */
  readonly shortest: Difference;
  readonly flaky: Mismatch['flaky'];
  readonly guess: string | null;
}

type Layers = { readonly [name: string]: Layer };

/** Judges all answers and sums up: one entry a cause, one row a rule and layer. */
export function summarise(
  answered: readonly Answered[],
  layers: Layers,
  schema: Schema,
  ledger: readonly Entry[],
): ProbeResult {
  const judged = judgeAnswers(answered, layers, schema, ledger);
  return resultOf(judged, causesOf(judged.differences, schema), layers, schema, ledger);
}

export function judgeAnswers(
  answered: readonly Answered[],
  layers: Layers,
  schema: Schema,
  ledger: readonly Entry[],
): JudgedAnswers {
  const differences: Difference[] = [];
  const agreeing: Answered[] = [];
  const tolerated: ToleratedAnswer[] = [];
  const fidelities = new Map(Object.entries(layers).map(([name, layer]) => [name, fidelitiesOf(layer, ledger)]));
  let notApplicable = 0;
  for (const one of answered) {
    const [layer, own] = [layers[one.layer], fidelities.get(one.layer)];
    if (layer === undefined || own === undefined) throw new Error(`no layer ${one.layer}`);
    const judgement = judgeAnswer(one, layer, own, modelOf(one.case.ruleset, schema));
    if (judgement === 'not applicable') {
      notApplicable += 1;
      continue;
    }
    if (typeof judgement === 'string') agreeing.push(one);
    else if ('tolerated' in judgement) tolerated.push({ ...one, tolerated: judgement.tolerated });
    else differences.push(judgement);
  }
  return { answered, differences, agreeing, tolerated, notApplicable };
}

/** @param looked what a closer look at a cause found, where there was one */
export function resultOf(
  judged: JudgedAnswers,
  causes: readonly Cause[],
  layers: Layers,
  schema: Schema,
  ledger: readonly Entry[],
  looked: ReadonlyMap<Cause, Looked> = new Map(),
  untested: readonly UntestedRule[] = [],
): ProbeResult {
  const told = (known: boolean) =>
    causes
      .filter(({ shortest }) => shortest.known === known)
      .map((cause) => mismatchOf(cause, looked.get(cause) ?? null, layers, schema, ledger));
  const [mismatches, known] = [told(false), told(true)];
  const { answered, notApplicable } = judged;
  return {
    rulesets: schema.map(({ ruleset }) => ruleset),
    layers: Object.entries(layers).map(([name, { kind }]) => ({ name, kind })),
    cases: caseCount(answered),
    answers: answered.length - notApplicable,
    notApplicable,
    setupFaults: setupFaultsOf(judged.answered, causes),
    coverage: layerCoverage(judged.answered, layers, schema),
    mismatches,
    known,
    tolerated: toleratedCounts(judged.tolerated),
    suggested: Object.entries(layers).flatMap(([name, layer]) =>
      suggestedTolerances(name, layer, causes, schema, ledger),
    ),
    byRule: ruleRows(schema, layers, ledger, talliesOf(judged.agreeing, judged.tolerated, causes)),
    untested,
  };
}

/** The causes of differences: those that the ledger tells of apart from those that it does not. */
export function causesOf(differences: readonly Difference[], schema: Schema): readonly Cause[] {
  return [false, true].flatMap((known) => {
    const groups = new Map<string, Difference[]>();
    const alone = new Set(differences.filter(({ observed }) => blamesOf(observed).length === 1).map(causeOf));
    const own = differences.filter((one) => one.known === known && !isEcho(one, differences));
    const single = own.filter(({ case: one }) => one.criterion !== 'together');
    for (const one of own) {
      if (!single.includes(one) && isExplained(one, single, schema)) continue;
      const cause = partOf(one, alone) ?? causeOf(one);
      groups.set(cause, [...(groups.get(cause) ?? []), one]);
    }
    return [...groups].map(([key, group]) => ({ key, differences: group, shortest: shortestOf(group, schema) }));
  });
}

/** The cause of the first thing that a layer blames, where each of them alone is a cause by itself. */
function partOf(one: Difference, alone: ReadonlySet<string>): string | null {
  const { observed } = one;
  if (!('refused' in observed) || !('accepted' in one.case.expected) || observed.refused.length < 2) return null;
  const parts = observed.refused.map((blame) =>
    causeOf({ ...one, observed: { refused: [blame] }, reason: wordsOfRefusal([blame]) }),
  );
  return parts.every((part) => alone.has(part)) ? (parts[0] ?? null) : null;
}

function blamesOf(observed: Answer): readonly Blame[] {
  return 'refused' in observed ? observed.refused : [];
}

/**
 * One cause: a rule, a layer, a kind. A layer that breaks down, refuses what is allowed, or keeps what it refused, does so
 * for a reason of its own: there it is the error, or what it blames, whatever the case was about.
 */
export function causeOf({ rule, layer, kind, observed, case: one, reason }: Difference): string {
  if (kind === 'breakdown') return `${layer} ${kind} ${reason}`;
  if ('refused' in observed && (kind === 'residue' || 'accepted' in one.expected)) {
    const blamed = observed.refused.map(({ pointer, rule }) => `${pointer} ${rule}`).join();
    // Words of which some are the value's own tell no cause from another where a rule does.
    const told = observed.refused.every((blame) => blame.rule !== null) ? '' : reason;
    if (observed.refused.some(({ pointer }) => pointer)) return `${layer} ${kind} ${blamed} ${told}`;
  }
  // To let too much in is another mistake than to let too little in.
  return `${rule} ${layer} ${kind} ${Object.keys(observed)[0]}`;
}

function shortestOf(group: readonly Difference[], schema: Schema): Difference {
  // Cases come the most telling first; what was left behind is told best by the rule that came too late.
  const isResidue = group[0]?.kind === 'residue';
  // A case about the very rule shows it better than one about another that meets it.
  const own = group.filter(({ rule, case: one }) => rule === one.constraint);
  // One that breaks nothing else shows one thing.
  const broken = ({ case: { expected } }: Difference) => ('refused' in expected ? expected.refused.length : 0);
  const sorted = [...(own.length > 0 ? own : group)].sort(
    (a, b) => broken(a) - broken(b) || sizeOf(a, schema) - sizeOf(b, schema),
  );
  const [shortest] = isResidue ? group : sorted;
  if (shortest === undefined) throw new Error('a cause without a difference');
  return shortest;
}

function mismatchOf(
  { differences, shortest: first }: Cause,
  looked: Looked | null,
  layers: Layers,
  schema: Schema,
  ledger: readonly Entry[],
): Mismatch {
  const { case: one, layer, kind, rule, observed, reason } = looked?.shortest ?? first;
  const target = layers[layer]?.target;
  const entry = ledger.find((other) => other.constraint === rule && other.target === target);
  return {
    case: one.id,
    ruleset: one.ruleset,
    field: pointerToPath(constraintOf(rule, schema)?.blame ?? ''),
    rule,
    layer,
    kind,
    wire: one.wire,
    does: one.does,
    input: one.input,
    before: one.before,
    existing: one.existing,
    expected: one.expected,
    observed,
    reason,
    shows: one.reason,
    cases: differences.length,
    inputs: differences.map(inputOf),
    guess: looked?.guess ?? null,
    mend: entry?.becomes ?? null,
    flaky: looked?.flaky ?? null,
  };
}

function inputOf({ case: { id, wire, does, input }, observed }: Difference): MismatchInput {
  return { case: id, wire, does, input, observed };
}

/** The length of what a person must read: the values that the rule is about. A JSON record reads easier than a form's. */
export function sizeOf({ case: one, rule }: Difference, schema: Schema): number {
  const subjects = constraintOf(rule, schema)?.subjects ?? [];
  const input = one.input as { readonly [name: string]: unknown };
  const told = subjects.length === 0 ? input : subjects.map((path) => input?.[path] ?? null);
  return visible(told).length + (one.wire === 'json' ? 0 : 0.5);
}

function constraintOf(rule: string, schema: Schema): Constraint | undefined {
  return schema.flatMap(({ constraints }) => constraints).find(({ id }) => id === rule);
}
