import {
  type Broken,
  behindThePage,
  Checking,
  type ClockReading,
  decideBy,
  type GivenClock,
  type How,
  isRecord,
  type Judged,
  type JudgedBy,
  judgedBy,
  mostKeys,
  mostNames,
  readClock,
  shaped,
  verdictOf,
} from '../meaning/index.js';
import type { Constraint, Enforcer, Model, Verdict, Wire } from '../model/index.js';
import { Following, type Made } from './following.js';
import { Memory, type Outcome } from './memory.js';
import { decodingOf, notCanonicalIn, outcomeOf } from './outcomes.js';

/** Decides many records of one ruleset. */
export type Decider = (input: unknown, wire: Wire, how?: Omit<How, 'enforcers'>) => Verdict;

/**
 * Decides as the meaning does, many records one after the other: what is the same for all of them, or was the same in one
 * before, is done once. What is rare (partial updates, what is no record, undeclared keys) is left to the meaning.
 */
export function decider(model: Model, enforcers: readonly Enforcer[] = behindThePage): Decider {
  const by = judgedBy(model, enforcers);
  const memory = new Memory();
  const following = new Following(model, by, memory);
  const clockOf = clockReader(model.zone);
  const tops = topsOf(model, by);
  return (input, wire, how = {}) => {
    const { store = null, clock, partial } = how;
    const made = partial === true ? null : (following.made(input, wire) ?? madeAnew(input, wire));
    if (made === null) return decideBy(by, model, input, wire, how);
    const { decoding, canonical, outcomes } = made;
    const { matchers } = memory;
    const judged = { model, decoding, canonical, store, clock: clockOf(clock), matchers, firstPlaces: new WeakMap() };
    return verdictOf(judged, checked(judged, outcomes), null);
  };

  /** The first two steps of a record that follows none; null for one that is left to the meaning. */
  function madeAnew(input: unknown, wire: Wire): Made | null {
    const { fields } = model;
    if (!isRecord(input) || Object.keys(input).length > (wire === 'form' ? mostNames : mostKeys(fields))) return null;
    const { tree, unknownNames } = shaped(model, input, wire);
    if (!isRecord(tree) || unknownNames.some((name) => !by.ignored.has(name))) return null;
    const names = by.names.get(fields);
    if (Object.keys(tree).some((name) => names?.has(name) !== true && !by.ignored.has(name))) return null;
    const outcomes = (by.taken.get(fields) ?? []).map((taken) => {
      const { name } = taken.field;
      return outcomeOf(taken, Object.hasOwn(tree, name) ? tree[name] : undefined, wire, { model, by, memory });
    });
    const row = Object.fromEntries(
      (by.taken.get(fields) ?? []).map(({ field, at }) => [field.name, outcomes[at]?.canonical.value ?? null]),
    );
    const made = {
      decoding: decodingOf(outcomes),
      canonical: { row, notCanonical: notCanonicalIn(outcomes) },
      outcomes,
    };
    following.note(input, wire, made);
    return made;
  }

  /** The third step: of fields that came out as they did before, the same is broken as then. */
  function checked(judged: Judged, outcomes: readonly Outcome[]) {
    const checking = new Checking(judged, by, null);
    const broken: Broken[] = [];
    for (const taken of by.judged.get(model.fields) ?? []) {
      const outcome = taken.at < 0 ? undefined : outcomes[taken.at];
      const faults = outcome?.faults ?? checking.brokenIn(taken);
      if (outcome !== undefined) outcome.faults = faults;
      if (faults.length > 0) broken.push(...faults);
    }
    for (const rule of by.rules) {
      const found = brokenAt(rule, checking, judged.clock, outcomes);
      if (found.length > 0) broken.push(...found);
    }
    return checking.concluded(broken);
  }

  /** Where a rule is broken: over fields that came out as they did before, where it was then. */
  function brokenAt(
    rule: Constraint,
    checking: Checking,
    clock: ClockReading,
    outcomes: readonly Outcome[],
  ): readonly Broken[] {
    const mentioned = tops.get(rule);
    if (mentioned === undefined) return checking.brokenAt(rule);
    const known = memory.ofRule(rule, mentioned, outcomes, clock);
    if (known !== null) return known;
    const broken = checking.brokenAt(rule);
    memory.noteRule(rule, { of: mentioned.map((at) => outcomes[at]), clock, broken });
    return broken;
  }
}

/** Which of the fields at the top a rule mentions; nothing of one over what nobody sends, or over the record. */
function topsOf(model: Model, { rules, taken }: JudgedBy): ReadonlyMap<Constraint, readonly number[]> {
  const top = (taken.get(model.fields) ?? []).filter(({ field }) => field.derivation === null);
  return new Map(
    rules.flatMap((rule): readonly (readonly [Constraint, readonly number[]])[] => {
      const names = [...new Set(rule.subjects.map((path) => path.split(/[.[]/)[0] ?? path))];
      const known = names.flatMap((name) => top.find(({ field }) => field.name === name)?.at ?? []);
      return names.length > 0 && known.length === names.length ? [[rule, known]] : [];
    }),
  );
}

/** Reads clocks of which one follows the other unchanged, most of the time. */
function clockReader(zone: string): (given: GivenClock | undefined) => ClockReading {
  let last: { readonly given: GivenClock; readonly reading: ClockReading } | null = null;
  return (given) => {
    if (given === undefined) return readClock(given, zone);
    const isSame = last?.given.instant === given.instant && last.given.zone === given.zone;
    if (last === null || !isSame) last = { given, reading: readClock(given, zone) };
    return last.reading;
  };
}
