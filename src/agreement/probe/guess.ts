import type { Schema } from '../../core/declare/index.js';
import { type Case, pointerToPath, type Row, type Verdict } from '../../core/model/index.js';
import type { Difference } from '../judge.js';
import { suspectsFor, topOf } from './suspects.js';

type Model = Schema[number];

/** So great a part of the right answers about a field's other rules may be another than a mistake would give. */
const FEW_WRONG = 0.04;

/**
 * The likely mistake behind some differences of one cause: one that accounts for every one of them, and for every case
 * about the same field that the layer has right. Null where none of the known mistakes does.
 *
 * @param rule the one that the differences are told of
 * @param right cases about the same field that the layer answers as it should
 * @param others its differences of other causes there: one mistake may have several
 */
export function guess(
  rule: string,
  differences: readonly Difference[],
  right: readonly Case[],
  others: readonly Difference[],
  model: Model,
): string | null {
  const [first] = differences;
  if (first === undefined) return null;
  if (first.kind === 'residue') return 'it stores the record before it has checked all of it';
  if (first.kind === 'breakdown') return guessBreakdown(rule, differences, model);
  if (first.kind === 'blame') return guessBlame(differences);
  const fitting: Fitting[] = [];
  for (const suspect of suspectsFor(rule, model)) {
    if (!differences.every((one) => isSaid(suspect.says(one.case), one, model))) continue;
    const wrong = right.filter((one) => !isSame(suspect.says(one), one.expected));
    // What is said of its other rules may have a cause of its own.
    if (wrong.some(({ constraint }) => constraint === rule) || wrong.length > right.length * FEW_WRONG) continue;
    const also = others.filter((one) => isSaid(suspect.says(one.case), one, model)).length;
    const stored = differences.filter((one) => isStored(suspect.says(one.case), one)).length;
    fitting.push({ words: suspect.words, ranks: [also, -wrong.length, stored] });
  }
  const [best, ...rest] = fitting.sort((one, other) => compareRanks(other.ranks, one.ranks));
  if (best === undefined) return null;
  // A wrong guess is worse than none: another mistake that accounts for as much may be the one.
  const isOnly = rest.every(
    (one) => compareRanks(one.ranks, best.ranks) !== 0 || mistakeOf(one.words) === mistakeOf(best.words),
  );
  return isOnly ? best.words : null;
}

/** A mistake that accounts for the differences, and how well: the first rank that differs decides. */
interface Fitting {
  readonly words: string;
  readonly ranks: readonly [alsoExplained: number, fewerContradictions: number, sameStoredValues: number];
}

function compareRanks(one: Fitting['ranks'], other: Fitting['ranks']): number {
  const at = one.findIndex((rank, index) => rank !== other[index]);
  return at === -1 ? 0 : (one[at] ?? 0) - (other[at] ?? 0);
}

/** Mistakes that are one and the same where values have a step: a comparison without its limit, a limit one step off. */
const ONE_STEP_OFF = ['comparison tightened', 'comparison loosened', 'literal off'];

function mistakeOf(words: string): string {
  const name = words.split(':')[0] ?? words;
  return ONE_STEP_OFF.includes(name) ? 'one step off' : name;
}

/** The layer stored what the mistake would store. */
function isStored(verdict: Verdict, { observed }: Difference): boolean {
  if (!('accepted' in verdict) || !('accepted' in observed) || observed.accepted === null) return false;
  const { accepted } = observed;
  return Object.entries(verdict.accepted).every(
    ([name, value]) => !Object.hasOwn(accepted, name) || JSON.stringify(accepted[name]) === JSON.stringify(value),
  );
}

/** A case of the same kind of verdict; what was blamed beside it is not compared. */
function isSame(verdict: Verdict, expected: Verdict): boolean {
  return 'accepted' in verdict === 'accepted' in expected;
}

/** True where the layer said what the suspect would say. */
function isSaid(verdict: Verdict, { observed, kind, rule, case: one }: Difference, model: Model): boolean {
  if (kind !== 'altered') return 'accepted' in verdict === 'accepted' in observed;
  if (!('accepted' in verdict) || !('accepted' in observed) || !('accepted' in one.expected)) return false;
  const path = topOf(model.constraints.find(({ id }) => id === rule)?.owner ?? '');
  const told = (row: Row | null) => JSON.stringify(row !== null && Object.hasOwn(row, path) ? row[path] : null);
  return told(verdict.accepted) === told(observed.accepted) && told(verdict.accepted) !== told(one.expected.accepted);
}

function guessBreakdown(rule: string, differences: readonly Difference[], model: Model): string | null {
  const owner = model.constraints.find(({ id }) => id === rule)?.owner ?? '';
  const values = differences.map(({ case: { input } }) =>
    typeof input === 'object' && input !== null && Object.hasOwn(input, topOf(owner))
      ? (input as Row)[topOf(owner)]
      : undefined,
  );
  if (owner === '' || values.length === 0) return null;
  if (values.every((value) => value === undefined || value === null))
    return 'it takes for granted that a value is there';
  return values.every((value) => typeof value !== 'string') ? 'it takes for granted what type a value is of' : null;
}

function guessBlame(differences: readonly Difference[]): string | null {
  const blamed = differences.flatMap(({ observed }) => ('refused' in observed ? [observed.refused] : []));
  if (differences.some(({ untold }) => untold.length > 0))
    return blamed.every((told) => told.length <= 1) ? 'first violation only: only the first fault is told' : null;
  const pointers = new Set(blamed.flat().map(({ pointer }) => pointer));
  const [only = null] = pointers;
  if (pointers.size !== 1) return null;
  return only === null || only === '' ? 'every fault is told of the record as a whole' : `it is told at ${only}`;
}

/** What a mistake about a field may be seen in: cases about the same field, or about a rule that mentions it. */
export function isAbout(rule: string, constraint: string, model: Model): boolean {
  if (rule === constraint) return true;
  const of = (id: string) => model.constraints.find((one) => one.id === id);
  const [a, b] = [of(rule), of(constraint)];
  if (a === undefined || b === undefined) return false;
  return a.facet && b.facet && a.owner === b.owner && pointerToPath(a.owner) !== '';
}
