import type { Schema } from '../core/declare/index.js';
import { type Answer, type Constraint, type Entry, pointerToPath, type Verdict } from '../core/model/index.js';
import { type Layer, modelOf } from '../layers/layer.js';
import { type Difference, fidelitiesOf, judgeAnswer, type MismatchKind, visible } from './judge.js';
import type { Answered } from './run.js';

/** All differences of one cause (rule, layer and kind), shown by the shortest input among them. */
export interface Mismatch {
  readonly case: string;
  readonly ruleset: string;
  /** The blamed field as a JSON Pointer; '' is the record. */
  readonly field: string;
  readonly rule: string;
  readonly layer: string;
  readonly kind: MismatchKind;
  readonly input: unknown;
  readonly expected: Verdict;
  readonly observed: Answer;
  readonly reason: string;
  /** What the shortest case is: the side of which limit, the spelling of what. */
  readonly shows: string;
  /** How many cases show it. */
  readonly cases: number;
}

export type Status = 'tested' | 'absent' | 'mismatch' | 'untested';

/** What became of one rule in one layer. */
export interface RuleRow {
  readonly rule: string;
  readonly layer: string;
  readonly status: Status;
  readonly cases: number;
  readonly known: number;
}

/** The result of a probe; printed as JSON as it is. */
export interface ProbeResult {
  readonly rulesets: readonly string[];
  readonly layers: readonly { readonly name: string; readonly kind: string }[];
  readonly cases: number;
  readonly answers: number;
  readonly notApplicable: number;
  readonly mismatches: readonly Mismatch[];
  readonly known: readonly Mismatch[];
  readonly byRule: readonly RuleRow[];
}

/** Judges all answers and sums up: one entry a cause, one row a rule and layer. */
export function summarise(
  answered: readonly Answered[],
  layers: { readonly [name: string]: Layer },
  schema: Schema,
  ledger: readonly Entry[],
): ProbeResult {
  const differences: Difference[] = [];
  const counts = new Map<string, number>();
  let notApplicable = 0;
  for (const one of answered) {
    const layer = layers[one.layer];
    if (layer === undefined) throw new Error(`no layer ${one.layer}`);
    const judgement = judgeAnswer(one, layer, fidelitiesOf(layer, ledger), modelOf(one.case.ruleset, schema));
    if (judgement === 'not applicable') {
      notApplicable += 1;
      continue;
    }
    const about = typeof judgement === 'string' ? one.case.constraint : judgement.rule;
    const key = cell(about, one.layer);
    counts.set(key, (counts.get(key) ?? 0) + 1);
    if (typeof judgement !== 'string') differences.push(judgement);
  }
  const mismatches = byCause(
    differences.filter(({ known }) => !known),
    schema,
  );
  const known = byCause(
    differences.filter((one) => one.known),
    schema,
  );
  return {
    rulesets: schema.map(({ ruleset }) => ruleset),
    layers: Object.entries(layers).map(([name, { kind }]) => ({ name, kind })),
    cases: new Set(answered.map((one) => one.case.id)).size,
    answers: answered.length - notApplicable,
    notApplicable,
    mismatches,
    known,
    byRule: ruleRows(schema, layers, ledger, counts, mismatches, known),
  };
}

function cell(rule: string, layer: string): string {
  return `${rule} ${layer}`;
}

function byCause(differences: readonly Difference[], schema: Schema): readonly Mismatch[] {
  const groups = new Map<string, Difference[]>();
  const single = differences.filter(({ case: one }) => one.criterion !== 'together');
  for (const one of differences) {
    if (!single.includes(one) && isExplained(one, single, schema)) continue;
    const cause = causeOf(one);
    groups.set(cause, [...(groups.get(cause) ?? []), one]);
  }
  return [...groups.values()].map((group) => mismatchOf(group, schema));
}

/**
 * One cause: a rule, a layer, a kind. A layer that breaks down, refuses what is allowed, or keeps what it refused, does so
 * for a reason of its own: there it is the error, or what it blames, whatever the case was about.
 */
function causeOf({ rule, layer, kind, observed, case: one, reason }: Difference): string {
  if (kind === 'breakdown') return `${layer} ${kind} ${reason}`;
  if ('refused' in observed && (kind === 'residue' || 'accepted' in one.expected)) {
    const blamed = observed.refused.map(({ pointer, rule }) => `${pointer} ${rule}`).join();
    // Words of which some are the value's own tell no cause from another where a rule does.
    const told = observed.refused.every((blame) => blame.rule !== null) ? '' : reason;
    if (observed.refused.some(({ pointer }) => pointer)) return `${layer} ${kind} ${blamed} ${told}`;
  }
  // To let too much in is another mistake than to let too little in.
  return `${cell(rule, layer)} ${kind} ${Object.keys(observed)[0]}`;
}

/** What a record with many faults shows once more, after records with one of them have shown it. */
function isExplained(together: Difference, singles: readonly Difference[], schema: Schema): boolean {
  const own = singles.filter(({ layer }) => layer === together.layer);
  if (together.untold.length > 0) return together.untold.every((rule) => own.some((single) => single.rule === rule));
  const blamed = 'refused' in together.observed ? together.observed.refused.map(({ pointer }) => pointer) : [];
  return own.some(({ rule }) => blamed.includes(pointerToPath(constraintOf(rule, schema)?.blame ?? '')));
}

function mismatchOf(group: readonly Difference[], schema: Schema): Mismatch {
  // Cases come the most telling first; what was left behind is told best by the rule that came too late.
  const isResidue = group[0]?.kind === 'residue';
  const [shortest] = isResidue ? group : [...group].sort((a, b) => sizeOf(a, schema) - sizeOf(b, schema));
  if (shortest === undefined) throw new Error('a cause without a difference');
  const { case: one, layer, kind, rule, observed, reason } = shortest;
  return {
    case: one.id,
    ruleset: one.ruleset,
    field: pointerToPath(constraintOf(rule, schema)?.blame ?? ''),
    rule,
    layer,
    kind,
    input: one.input,
    expected: one.expected,
    observed,
    reason,
    shows: one.reason,
    cases: group.length,
  };
}

/** The length of what a person must read: the values that the rule is about. A JSON record reads easier than a form's. */
function sizeOf({ case: one, rule }: Difference, schema: Schema): number {
  const subjects = constraintOf(rule, schema)?.subjects ?? [];
  const input = one.input as { readonly [name: string]: unknown };
  const told = subjects.length === 0 ? input : subjects.map((path) => input?.[path] ?? null);
  return visible(told).length + (one.wire === 'json' ? 0 : 0.5);
}

function constraintOf(rule: string, schema: Schema): Constraint | undefined {
  return schema.flatMap(({ constraints }) => constraints).find(({ id }) => id === rule);
}

function ruleRows(
  schema: Schema,
  layers: { readonly [name: string]: Layer },
  ledger: readonly Entry[],
  counts: ReadonlyMap<string, number>,
  mismatches: readonly Mismatch[],
  known: readonly Mismatch[],
): readonly RuleRow[] {
  const of = (list: readonly Mismatch[], rule: string, layer: string) =>
    list.filter((one) => one.rule === rule && one.layer === layer).reduce((sum, one) => sum + one.cases, 0);
  const rules = schema.flatMap(({ constraints }) => constraints.map(({ id }) => id));
  return rules.flatMap((rule) =>
    Object.entries(layers).map(([layer, { target }]): RuleRow => {
      const cases = counts.get(cell(rule, layer)) ?? 0;
      const entry = ledger.find((one) => one.constraint === rule && one.target === target);
      const absent = entry?.fidelity.is === 'absent';
      const wrong = of(mismatches, rule, layer) > 0;
      const status = wrong ? 'mismatch' : absent ? 'absent' : cases > 0 ? 'tested' : 'untested';
      return { rule, layer, status, cases, known: of(known, rule, layer) };
    }),
  );
}
