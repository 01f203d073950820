import type { Schema } from '../core/declare/index.js';
import { decide } from '../core/meaning/index.js';
import {
  type Answer,
  allFields,
  type Blame,
  type Case,
  type Entry,
  type Model,
  pointerToPath,
  type Row,
  secretIn,
  type Tolerance,
  type Violation,
  valueAt,
} from '../core/model/index.js';
import type { Layer } from '../layers/layer.js';
import { type Altered, alteredFields } from './altered-fields.js';
import { deletionFault } from './judge-deletion.js';
import type { Answered } from './run.js';
import { isConversion } from './tolerances/conversions.js';

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
  /** The rules that it should have told and did not, where that is the difference. */
  readonly untold: readonly string[];
  /** What it reported that nothing asks for, where that is the difference. */
  readonly stranger: Blame | null;
}

/** A difference that the layer's tolerances allow. */
export interface Tolerated {
  readonly tolerated: readonly Tolerance[];
  readonly difference: Difference;
}

export type Judgement = 'agrees' | 'not applicable' | Difference | Tolerated;

/** What the ledger says of the layer's target, by constraint. */
export type Fidelities = ReadonlyMap<string, Entry['fidelity']>;

/**
 * The part of the ledger that speaks for a layer. It says what compiled code does: of code that is written by hand only
 * what nothing of its target can hold is taken from it.
 */
export function fidelitiesOf(
  { target, compiled }: Pick<Layer, 'target' | 'compiled'>,
  ledger: readonly Entry[],
): Fidelities {
  const speaks = ({ fidelity }: Entry) => compiled === true || (fidelity.is === 'absent' && fidelity.elsewise !== true);
  const own = ledger.filter((entry) => entry.target === target && speaks(entry));
  return new Map(own.map((entry) => [entry.constraint, entry.fidelity]));
}

/**
 * Holds one answer against the expected verdict, as far as the layer claims to tell.
 *
 * @param lenient the tolerances that are granted to it in reporting and storing; how it reads is in the case already
 */
export function judgeBy(
  { case: whole, layer, answer }: Answered,
  { can, compiled }: Layer,
  fidelities: Fidelities,
  model: Schema[number],
  lenient: ReadonlySet<Tolerance>,
): Exclude<Judgement, Tolerated> {
  const one = can.store ? whole : withoutLookUps(whole, model);
  if ('notApplicable' in answer) return 'not applicable';
  const difference: Differ = (kind, rule, reason, { known = false, untold = [], stranger = null } = {}) => ({
    case: one,
    layer,
    kind,
    known,
    rule,
    observed: answer,
    reason,
    untold,
    stranger,
  });
  const { expected } = one;
  const broken =
    one.does !== 'delete' && 'refused' in expected && expected.refused.length === 1
      ? expected.refused[0]?.rule
      : undefined;
  if ('residue' in answer && answer.residue !== undefined) {
    return difference('residue', broken ?? one.constraint, answer.residue);
  }
  if ('breakdown' in answer)
    return difference('breakdown', broken ?? one.constraint, `breaks down: ${answer.breakdown}`);
  if (one.does === 'delete') {
    const fault = deletionFault(one, answer, model);
    return fault === null ? 'agrees' : difference(fault.kind, one.constraint, fault.reason);
  }
  if ('accepted' in expected) {
    if ('refused' in answer) return refusesTheAllowed(one, answer.refused, model, difference);
    // Who does not tell what is stored is believed.
    const altered =
      answer.accepted === null
        ? []
        : alteredFields(model, expected.accepted, answer.accepted, {
            given: one.wire === 'row' ? null : one.input,
            nullIsEmpty: lenient.has('nullAsEmptyList'),
          });
    if (altered.length === 0) return 'agrees';
    const words = altered.map(({ words }) => words).join(', ');
    return difference('altered', ruleOfAltered(one, altered, model), `stores ${words}`);
  }
  const { refused, possibly } = expected;
  const fidelityOf = ({ rule }: Violation) => fidelities.get(rule);
  const held = refused.filter((violation) => isHeld(fidelityOf(violation), can));
  if ('accepted' in answer) {
    if (answer.accepted !== null && isConversion(one, refused, answer.accepted, model, lenient)) return 'agrees';
    const [first] = held.length > 0 ? held : [...refused, ...possibly];
    const isByHand = compiled !== true && can.store;
    const main = (isByHand ? missingReference(first, one, answer.accepted, model) : null) ?? first;
    const fidelity = main === undefined ? undefined : fidelityOf(main);
    // An engine that alters makes something allowed of it; one that keeps what is not allowed does more than the ledger tells.
    const isLeft = (of: Entry['fidelity'] | undefined) => !isHeld(of, can) && of?.is !== 'altering';
    const allowed = () => {
      const verdict = decide(model, answer.accepted ?? {}, 'row', { clock: one.clock });
      return 'accepted' in verdict || verdict.refused.every((one) => isLeft(fidelityOf(one)));
    };
    const known = held.length === 0 && (fidelity?.is !== 'altering' || allowed());
    return difference('verdict', main?.rule ?? one.constraint, known ? whyNotHeld(fidelity) : ACCEPTS, { known });
  }
  // An engine that reads the value as another one goes on from there: what it then refuses is a consequence.
  const isAltered = (violation: Violation) => compiled !== true || fidelityOf(violation)?.is === 'altering';
  const converted = refused.some((violation) => isTyped(violation) && isAltered(violation));
  if (can.convertsFirst && converted) return 'agrees';
  const reporting = { ...can, allViolations: can.allViolations && !lenient.has('oneViolation') };
  return (
    blameFault(one, answer.refused, held, [...refused, ...possibly], reporting, model, difference, lenient) ?? 'agrees'
  );
}

/**
 * The reference whose row is not there, where a store accepts a value that other rules of its field refuse as well: a foreign
 * key that is missing lets all of them in.
 */
function missingReference(
  main: Violation | undefined,
  { before }: Case,
  stored: Row | null,
  { constraints }: Model,
): Violation | null {
  const reference = constraints.find(
    ({ blame, predicate }) => predicate.op === 'refersTo' && pointerToPath(blame) === main?.pointer,
  );
  if (main === undefined || reference === undefined || stored === null) return null;
  const { id: rule, message, predicate, blame } = reference;
  const key = valueAt(stored, blame);
  const isThere =
    predicate.op === 'refersTo' &&
    before.some(({ ruleset, row }) => ruleset === predicate.to && valueAt(row, predicate.key) === key);
  return key === null || isThere ? null : { pointer: main.pointer, rule, message };
}

/** The rule that a case is about where its field is altered; the type of another field, which each case would show. */
function ruleOfAltered(one: Case, altered: readonly Altered[], model: Model): string {
  const about = model.constraints.find(({ id }) => id === one.constraint);
  const asItCame = altered.find((each) => each.asGiven);
  const canonical = `${one.ruleset}.${asItCame?.field}.canonical`;
  if (asItCame !== undefined && model.constraints.some(({ id }) => id === canonical)) return canonical;
  const isOwn = ({ field }: Altered) =>
    about === undefined || [about.owner, ...about.subjects].some((path) => path.split(/[.[]/)[0] === field);
  const [first] = altered;
  const type = `${one.ruleset}.${first?.field}.type`;
  const isKnown = model.constraints.some(({ id }) => id === type);
  return first === undefined || !isKnown || altered.some(isOwn) ? one.constraint : type;
}

/** A case as whoever knows no stored records is to answer it: what only they would break is not expected. */
function withoutLookUps(one: Case, model: Model): Case {
  const { expected, on, input, wire, clock, existing, does } = one;
  const isLookUp = ({ rule }: Violation) =>
    model.constraints.some(({ id, stage }) => id === rule && stage === 'lookup');
  if ('accepted' in expected || on === 'client' || !expected.refused.some(isLookUp)) return one;
  return { ...one, expected: decide(model, input, wire, { clock, existing, partial: does === 'patch' }) };
}

type Differ = (
  kind: MismatchKind,
  rule: string,
  reason: string,
  more?: { readonly known?: boolean; readonly untold?: readonly string[]; readonly stranger?: Blame },
) => Difference;

const ACCEPTS = 'accepts it';

/** The difference is about what was blamed, as far as that can be told: the case may be about another field. */
function refusesTheAllowed(one: Case, told: readonly Blame[], model: Model, difference: Differ): Difference {
  const [first] = told;
  const own = (id: string) => model.constraints.find((constraint) => constraint.id === id);
  const about = own(one.constraint);
  const at = model.constraints.find(({ blame }) => blame !== '' && pointerToPath(blame) === first?.pointer);
  const samePlace = about !== undefined && first?.pointer === pointerToPath(about.blame);
  const rule = first?.rule ?? (samePlace ? one.constraint : (at?.id ?? one.constraint));
  return difference('verdict', rule, wordsOfRefusal(told));
}

/** What a layer says that refuses what is allowed. */
export function wordsOfRefusal(told: readonly Blame[]): string {
  const words = told.map(({ message, pointer }) => message || pointer).filter((word) => word);
  return `refuses it${words.length > 0 ? `: ${words.join('; ')}` : ''}`;
}

/** True where the target claims to refuse all that the constraint refuses. */
function isHeld(fidelity: Entry['fidelity'] | undefined, { store }: Layer['can']): boolean {
  if (fidelity === undefined || fidelity.is === 'exact' || fidelity.is === 'stricter') return true;
  return store && fidelity.needs === 'store';
}

function isTyped({ rule }: Violation): boolean {
  return rule.endsWith('.type');
}

function whyNotHeld(fidelity: Entry['fidelity'] | undefined): string {
  return fidelity !== undefined && 'why' in fidelity ? fidelity.why : ACCEPTS;
}

/** Reported at the list or the record that holds what is wrong, where that is tolerated. */
function isBlamedAbove(
  { pointer, rule: id }: Blame,
  violation: Violation,
  rule: Model['constraints'][number] | undefined,
  model: Schema[number],
  lenient: ReadonlySet<Tolerance>,
): boolean {
  if (pointer === null || !violation.pointer.startsWith(`${pointer}/`)) return false;
  const steps = violation.pointer.slice(pointer.length + 1).split('/');
  const isEntry = /^(?:[0-9]+|-)$/.test(steps[0] ?? '');
  // A rule of ours at the list's own place may be the one that its author means.
  const isOfList = id === null || rule?.blame === pathAt(pointer, model);
  if (isEntry && isOfList && lenient.has('blameAtList')) return true;
  return steps.length === 1 && violation.rule.endsWith('.required') && lenient.has('blameAtRecord');
}

function pathAt(pointer: string, model: Schema[number]): string | undefined {
  return allFields(model).find(({ path }) => pointerToPath(path) === pointer)?.path;
}

/** Blames somebody else, or not everybody though it tells all. */
function blameFault(
  one: Case,
  told: readonly Blame[],
  held: readonly Violation[],
  expected: readonly Violation[],
  { allViolations, convertsFirst }: Layer['can'],
  model: Schema[number],
  difference: Differ,
  lenient: ReadonlySet<Tolerance>,
): Difference | null {
  const fits = (blame: Blame, violation: Violation) => {
    const samePlace = blame.pointer === null || blame.pointer === violation.pointer;
    const mistyped = convertsFirst && isTyped(violation);
    // Who refuses what is too large, for whatever reason, does right.
    if (violation.rule.endsWith('.limits')) return true;
    const rule = model.constraints.find(({ id }) => id === blame.rule);
    // What is made of a wrong secret may be wrong as well.
    const isMade = rule !== undefined && secretIn(rule.owner, model.fields) !== undefined;
    // What is no value of its kind may break any rule about the field.
    const isOver = rule?.subjects.some((path) => pointerToPath(path) === violation.pointer) === true;
    if (mistyped && isOver) return true;
    // A column of JSON refuses what is no JSON as a whole.
    const isWithin = blame.pointer !== null && violation.pointer.startsWith(`${blame.pointer}/`);
    if (mistyped && blame.rule === null && isWithin) return true;
    if (isBlamedAbove(blame, violation, rule, model, lenient)) return true;
    return samePlace && (blame.rule === null || blame.rule === violation.rule || mistyped || isMade);
  };
  const stranger = told.find((blame) => !expected.some((violation) => fits(blame, violation)));
  const [first] = expected;
  if (stranger !== undefined && first !== undefined) {
    const blamed = stranger.rule ?? stranger.pointer ?? stranger.message;
    return difference('blame', first.rule, `blames ${blamed} instead of ${first.pointer || 'the record'}`, {
      stranger,
    });
  }
  if (!allViolations) return null;
  const untold = held.filter((violation) => !told.some((blame) => fits(blame, violation))).map(({ rule }) => rule);
  if (untold.length === 0) return null;
  const count = held.length > 1 ? `tells ${told.length} of ${held.length}, ` : '';
  return difference('blame', one.constraint, `${count}not ${untold[0]}`, { untold });
}
