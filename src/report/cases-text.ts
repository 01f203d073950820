import type { Case } from '../core/model/index.js';
import { columns, type Look, paintFor } from './table.js';
import { shownCase } from './values.js';

/**
 * Cases as a person reads them, one a line: what is sent where the rule looks, what is to come of it, and what it is for.
 *
 * @param subjects the fields that the rule of a case is about
 */
export function casesText(cases: readonly Case[], subjects: (one: Case) => readonly string[], look: Look): string {
  const paint = paintFor(look);
  const rulesets = [...new Set(cases.map(({ ruleset }) => ruleset))];
  const parts = rulesets.map((ruleset) => {
    const own = cases.filter((one) => one.ruleset === ruleset);
    const rows = own.map((one) => {
      const { constraint, wire, does, reason } = one;
      const told = othersTold(one);
      return [
        `  ${'accepted' in one.expected ? paint.green('✓') : paint.red('✗')} ${paint.bold(constraint.slice(ruleset.length + 1))}`,
        does === 'insert' ? wire : `${wire}, ${does}`,
        shownCase(one, subjects(one)),
        `${reason}${told === '' ? '' : paint.dim(` (${told})`)}`,
      ];
    });
    return `${paint.bold(ruleset)}\n${columns(rows, look, 3)}\n`;
  });
  return parts.join('\n');
}

/** What the verdict says that the rule and the reason do not: rules that are told beside it, or instead of it. */
function othersTold({ expected, constraint, ruleset, on }: Case): string {
  const refused = 'refused' in expected ? expected.refused : [];
  const others = refused
    .filter(({ rule }) => rule !== constraint)
    .map(({ rule }) => (rule.startsWith(`${ruleset}.`) ? rule.slice(ruleset.length + 1) : rule));
  const named = [...new Set(others)];
  return [
    ...(named.length === 0 ? [] : [`tells ${named.join(', ')}`]),
    ...(on === 'client' ? ['the page alone'] : []),
  ].join('; ');
}
