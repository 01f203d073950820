import { type Checking, lineOf } from './script.js';

/**
 * The engine has no handlers: a refused statement is an error, and the client goes on. How many rows the tables hold then
 * says whether the record was accepted.
 */
export const sqlite: Checking = {
  advice: `Run it with: sqlite3 <database> < <file> 2>/dev/null
-- Errors of the engine are refusals, most of them expected; the lines say which are not.`,
  begin: `PRAGMA foreign_keys = ON;
CREATE TEMP TABLE IF NOT EXISTS echo_rule_rows (before INTEGER);
BEGIN;`,
  block: (one, number, quote) => {
    const count = [...new Set(one.tables)].map((table) => `(SELECT count(*) FROM ${table})`).join(' + ');
    const outcome = `CASE WHEN ${count} = before + ${one.own.length} THEN 'accepted' ELSE 'refused' END`;
    const ok = one.outcome === 'either' ? '1' : `outcome = ${quote(one.outcome)}`;
    const differs = quote(`${lineOf(one, number, false)} # expected ${one.expects}, but `);
    return [
      'SAVEPOINT echo_rule_case;',
      ...one.before,
      `INSERT INTO temp.echo_rule_rows SELECT ${count};`,
      ...one.own,
      `SELECT CASE WHEN ${ok} THEN ${quote(lineOf(one, number, true))} ELSE ${differs} || outcome END AS answer
  FROM (SELECT ${outcome} AS outcome FROM temp.echo_rule_rows);`,
      'ROLLBACK TO SAVEPOINT echo_rule_case;',
    ].join('\n');
  },
  end: () => `ROLLBACK;
DROP TABLE temp.echo_rule_rows;`,
};
