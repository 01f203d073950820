import type { Case } from '../model/index.js';
import type { CaseSet } from './case-set.js';
import { criteria } from './criteria.js';

/** Which cases are wanted: of some rules, of some fields, and how many at most. */
export interface Asked {
  /** Ids of constraints. */
  readonly rules?: readonly string[];
  /** `<ruleset>.<path>`. */
  readonly fields?: readonly string[];
  readonly budget?: number;
  /** Which of them whoever asks can take. */
  readonly fits?: (one: Case) => boolean;
}

/** How many cases of a constraint there are, and how many of them were left out. */
export interface RuleCoverage {
  readonly rule: string;
  readonly cases: number;
  readonly leftOut: number;
}

export interface Coverage {
  /** The cases that are wanted by rule and field, and those of them within the budget. */
  readonly made: number;
  readonly selected: number;
  /** The constraints that they are about, and those with a case within the budget. */
  readonly rules: number;
  readonly covered: number;
  /** Inputs that were never made, as they would be too many. */
  readonly unmade: number;
  /** Constraints of which cases were left out. */
  readonly leftOut: readonly RuleCoverage[];
}

/**
 * The wanted cases, the most telling first: of each constraint in turn its best one, then the second best, and so on, so
 * that whatever is cut off at the end is missed least.
 */
export function selected(
  sets: readonly CaseSet[],
  asked: Asked,
): { readonly cases: readonly Case[]; readonly coverage: Coverage } {
  const all = sets.flatMap(({ cases }) => cases).filter((one) => isWanted(one, asked));
  const ordered = mostTellingFirst(all);
  const cases = ordered.slice(0, asked.budget ?? ordered.length);
  return { cases, coverage: coverageOf(all, cases, sets) };
}

function isWanted(one: Case, { rules, fields, fits }: Asked): boolean {
  const { constraint } = one;
  if (fits?.(one) === false) return false;
  const isOfField = fields?.some((field) => constraint.startsWith(`${field}.`) || constraint.startsWith(`${field}[]`));
  if (rules === undefined && fields === undefined) return true;
  return rules?.includes(constraint) === true || isOfField === true;
}

/** By their place among their constraint's own; there the criteria and the wires take turns, refusals before the rest. */
function mostTellingFirst(cases: readonly Case[]): readonly Case[] {
  const names = [...Object.keys(criteria), 'witnesses'];
  const byRule = new Map<string, Case[]>();
  for (const one of cases) {
    const known = byRule.get(one.constraint);
    if (known === undefined) byRule.set(one.constraint, [one]);
    else known.push(one);
  }
  const ranked = [...byRule.values()].flatMap((own) => {
    const seen = new Map<string, number>();
    const weighed = own.map((one) => {
      const kind = `${one.criterion} ${one.wire} ${'refused' in one.expected}`;
      const turn = seen.get(kind) ?? 0;
      seen.set(kind, turn + 1);
      const isRefused = 'refused' in one.expected && one.expected.refused.some(({ rule }) => rule === one.constraint);
      // A valid record comes before everything: who refuses that has nothing else to say.
      const isWhole = one.criterion === names[0] && 'accepted' in one.expected;
      return { one, turn, weight: (isRefused || isWhole ? 0 : 100) + names.indexOf(one.criterion) };
    });
    weighed.sort((a, b) => a.turn - b.turn || a.weight - b.weight);
    return weighed.map(({ one }, place) => ({ one, place }));
  });
  return ranked.sort((a, b) => a.place - b.place).map(({ one }) => one);
}

function coverageOf(all: readonly Case[], cases: readonly Case[], sets: readonly CaseSet[]): Coverage {
  const counted = (list: readonly Case[]) => {
    const counts = new Map<string, number>();
    for (const { constraint } of list) counts.set(constraint, (counts.get(constraint) ?? 0) + 1);
    return counts;
  };
  const [made, kept] = [counted(all), counted(cases)];
  const unmade = new Map(sets.flatMap(({ leftOut }) => [...leftOut].filter(([rule]) => made.has(rule))));
  const leftOut = [...made].map(([rule, count]): RuleCoverage => {
    const own = kept.get(rule) ?? 0;
    return { rule, cases: own, leftOut: count - own };
  });
  return {
    made: all.length,
    selected: cases.length,
    rules: made.size,
    covered: kept.size,
    unmade: [...unmade.values()].reduce((sum, count) => sum + count, 0),
    leftOut: leftOut.filter((one) => one.leftOut > 0),
  };
}
