import type { CaseStatements } from '../agreement/index.js';

/**
 * Cases as a script of SQL that changes nothing: each is put in behind a savepoint and taken back. Before each a row says
 * which case it is and what to expect, so that it stands beside what the engine says of it.
 *
 * @param quote writes a text in the engine's SQL
 */
export function casesSql(
  cases: readonly CaseStatements[],
  engine: string,
  advice: string,
  quote: (text: string) => string,
): string {
  const blocks = cases.map(({ case: one, before, own, expects }) =>
    [
      `-- ${one.id}: ${one.reason}`,
      'SAVEPOINT echo_rule_case;',
      ...before,
      `SELECT ${quote(one.id)} AS echo_rule_case, ${quote(expects)} AS expects;`,
      ...own,
      'ROLLBACK TO SAVEPOINT echo_rule_case;',
    ].join('\n'),
  );
  return `-- ${cases.length} boundary cases for ${engine}. Each is taken back: nothing is changed.
-- The tables must be there. ${advice}

BEGIN;

${blocks.join('\n\n')}

ROLLBACK;
`;
}
