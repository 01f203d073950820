import { counted, plural } from './counts.js';

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
 * @param unwritten of those that are selected, how many the format could not say
 * @param only which cases the format takes, in words; null where it takes all
 */
export function coverageText(coverage: Covered, unwritten: number, only: string | null): string {
  const { made, selected, rules, covered, unmade, leftOut } = coverage;
  const taken = only === null ? '' : ` This format takes ${only}.`;
  const unsaid = unwritten === 0 ? '' : ` ${plural(unwritten, 'more case')} can't be written as statements.`;
  const beyond = unmade === 0 ? '' : ` Near misses beyond the budget of their patterns: ${counted(unmade)}.`;
  const written = selected - unwritten;
  if (selected === made) return `${plural(written, 'case')} of ${plural(rules, 'rule')}.${unsaid}${beyond}${taken}\n`;
  const most = [...leftOut].sort((a, b) => b.leftOut - a.leftOut);
  const named = most.slice(0, 3).map((one) => `${one.rule} (${counted(one.leftOut)})`);
  const more =
    most.length > 3 ? ` and ${most.length === 4 ? 'one more rule' : `${counted(most.length - 3)} more rules`}` : '';
  return `${counted(written)} of ${plural(made, 'case')}, the most telling first: ${counted(covered)} of ${plural(rules, 'rule')} have one.${unsaid}
Left out: ${counted(made - selected)}, most of them of ${named.join(', ')}${more}.${beyond}${taken}
`;
}
