import { counted } from './counts.js';

/** How many cases there are, how many of them were written, and of which rules some were left out. */
export interface Covered {
  readonly made: number;
  readonly selected: number;
  readonly rules: number;
  readonly covered: number;
  readonly unmade: number;
  readonly leftOut: readonly { readonly rule: string; readonly leftOut: number }[];
}

/**
 * What was written of the cases that there are, and what was left out.
 *
 * @param only which cases the format takes, in words; null where it takes all
 */
export function coverageText(coverage: Covered, only: string | null): string {
  const { made, selected, rules, covered, unmade, leftOut } = coverage;
  const taken = only === null ? '' : ` This format takes ${only}.`;
  const beyond = unmade === 0 ? '' : ` Near misses beyond the budget of their patterns: ${counted(unmade)}.`;
  if (selected === made) return `${counted(selected)} cases of ${counted(rules)} rules.${beyond}${taken}\n`;
  const most = [...leftOut].sort((a, b) => b.leftOut - a.leftOut);
  const named = most.slice(0, 3).map((one) => `${one.rule} (${counted(one.leftOut)})`);
  const more =
    most.length > 3 ? ` and ${most.length === 4 ? 'one more rule' : `${counted(most.length - 3)} more rules`}` : '';
  return `${counted(selected)} of ${counted(made)} cases, the most telling first: ${counted(covered)} of ${counted(rules)} rules have one.
Left out: ${counted(made - selected)}, most of them of ${named.join(', ')}${more}.${beyond}${taken}
`;
}
