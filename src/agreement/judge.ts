import { decide } from '../core/meaning/index.js';
import type { Answer, Blame, Case, Entry, Model, Row, Violation } from '../core/model/index.js';
import type { Layer } from '../layers/layer.js';
import type { Answered } from './run.js';

export type MismatchKind = 'verdict' | 'altered' | 'blame' | 'breakdown' | 'residue';

/** A difference between a layer's answer and the expected verdict; `known` where the ledger tells of it. */
export interface Difference {
  readonly case: Case;
  readonly layer: string;
  readonly kind: MismatchKind;
  readonly known: boolean;
  /** The rule that the difference is about. */
  readonly rule: string;
  readonly observed: Answer;
  readonly reason: string;
}

export type Judgement = 'agrees' | 'not applicable' | Difference;

/** What the ledger says of the layer's target, by constraint. */
export type Fidelities = ReadonlyMap<string, Entry['fidelity']>;

/** Holds one answer against the expected verdict, as far as the layer claims to tell. */
export function judgeAnswer(
  { case: one, layer, answer }: Answered,
  { can }: Layer,
  fidelities: Fidelities,
  model: Model,
): Judgement {
  const isAllowed = (row: Row) => 'accepted' in decide(model, row, 'row');
  if ('notApplicable' in answer) return 'not applicable';
  const difference = (kind: MismatchKind, rule: string, reason: string, known = false): Difference => ({
    case: one,
    layer,
    kind,
    known,
    rule,
    observed: answer,
    reason,
  });
  if ('residue' in answer && answer.residue !== undefined) return difference('residue', one.constraint, answer.residue);
  if ('breakdown' in answer) return difference('breakdown', one.constraint, answer.breakdown);
  if ('accepted' in one.expected) {
    if ('refused' in answer) {
      const told = answer.refused.map(({ message, pointer }) => message || pointer || 'without a word').join('; ');
      return difference('verdict', one.constraint, `refuses what is allowed: ${told || 'without a word'}`);
    }
    const altered = alteredFields(one.expected.accepted, answer.accepted);
    return altered.length === 0 ? 'agrees' : difference('altered', one.constraint, `stores ${altered.join(', ')}`);
  }
  const { refused, possibly } = one.expected;
  // Look-ups are the store's: who does not know it is not asked for them.
  const held = refused.filter(({ rule }) => isHeld(fidelities.get(rule)));
  if ('accepted' in answer) {
    const [main] = held.length > 0 ? held : refused.length > 0 ? refused : possibly;
    const fidelity = fidelities.get(main?.rule ?? '');
    // An engine that alters makes something allowed of it; one that keeps what is not allowed does more than the ledger tells.
    const known = held.length === 0 && (fidelity?.is !== 'altering' || isAllowed(answer.accepted));
    const words = known ? whyNotHeld(fidelity) : 'accepts what should be refused';
    return difference('verdict', main?.rule ?? one.constraint, words, known);
  }
  // An engine that reads the value as another one goes on from there: what it then refuses is a consequence.
  const converted = refused.some(({ rule }) => rule.endsWith('.type') && fidelities.get(rule)?.is === 'altering');
  if (can.convertsFirst && converted) return 'agrees';
  return blameFault(one, answer.refused, held, [...refused, ...possibly], can, difference) ?? 'agrees';
}

/** True where the target claims to refuse all that the constraint refuses. */
function isHeld(fidelity: Entry['fidelity'] | undefined): boolean {
  return fidelity === undefined || fidelity.is === 'exact' || fidelity.is === 'stricter';
}

function whyNotHeld(fidelity: Entry['fidelity'] | undefined): string {
  return fidelity !== undefined && 'why' in fidelity ? fidelity.why : 'accepts what should be refused';
}

/** Blames somebody else, or not everybody though it tells all. */
function blameFault(
  one: Case,
  told: readonly Blame[],
  held: readonly Violation[],
  expected: readonly Violation[],
  { allViolations, convertsFirst }: Layer['can'],
  difference: (kind: MismatchKind, rule: string, reason: string) => Difference,
): Difference | null {
  const fits = (blame: Blame, violation: Violation) => {
    const samePlace = blame.pointer === null || blame.pointer === violation.pointer;
    const mistyped = convertsFirst && violation.rule.endsWith('.type');
    return samePlace && (blame.rule === null || blame.rule === violation.rule || mistyped);
  };
  const stranger = told.find((blame) => !expected.some((violation) => fits(blame, violation)));
  const [first] = expected;
  if (stranger !== undefined && first !== undefined) {
    const blamed = stranger.rule ?? stranger.pointer ?? stranger.message;
    return difference('blame', first.rule, `blames ${blamed} instead of ${first.rule}`);
  }
  if (!allViolations) return null;
  const untold = held.find((violation) => !told.some((blame) => fits(blame, violation)));
  if (untold === undefined) return null;
  const count = held.length > 1 ? `tells ${told.length} of ${held.length}, ` : '';
  return difference('blame', one.constraint, `${count}not ${untold.rule}`);
}

/** The fields whose stored value is another than the canonical one, in words. */
function alteredFields(expected: Row, stored: Row): readonly string[] {
  if (Object.keys(stored).length === 0) return ['nothing, though it reports success'];
  return Object.keys(expected)
    .filter((path) => stored[path] !== expected[path])
    .map((path) => `${path} as ${visible(stored[path])} instead of ${visible(expected[path])}`);
}

/** A value with what can't be seen written as escapes. */
export function visible(value: unknown): string {
  if (value === undefined) return 'missing';
  const text = JSON.stringify(value);
  return text.replace(/[\ufffd\p{Cc}\p{Cf}\p{Zl}\p{Zp}\p{Surrogate}]|(?! )\p{Zs}/gu, (character) => {
    return `\\u${(character.codePointAt(0) ?? 0).toString(16).padStart(4, '0')}`;
  });
}
