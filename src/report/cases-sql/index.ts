import type { CaseStatements, EngineName } from '../../agreement/index.js';
import { mariadb } from './mariadb.js';
import { postgresql } from './postgresql.js';
import type { Checking } from './script.js';
import { sqlite } from './sqlite.js';

const engines: { readonly [E in EngineName]: Checking } = { postgresql, mariadb, sqlite };

/**
 * Cases as a script of SQL that checks itself and changes nothing: each is put in and taken back, and answers with a line
 * of the Test Anything Protocol, `ok` or `not ok` with what was expected.
 *
 * @param quote writes a text in the engine's SQL
 */
export function casesSql(
  cases: readonly CaseStatements[],
  engine: EngineName,
  quote: (text: string) => string,
): string {
  const { advice, begin, block, end } = engines[engine];
  const blocks = cases.map((one, at) => `-- ${one.case.id}: ${one.case.reason}\n${block(one, at + 1, quote)}`);
  return `-- ${cases.length} boundary cases for ${engine}. Each is taken back: no row is changed; what a table counts is not counted back.
-- The tables must be there. A line "not ok" is a disagreement. ${advice}

${begin}

SELECT ${quote(`1..${cases.length}`)} AS answer;

${blocks.join('\n\n')}

${end(cases.length)}
`;
}
