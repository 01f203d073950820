import { type Checking, lineOf } from './script.js';

/** A block with an exception handler: what was reached when an error came says whether the record was accepted. */
export const postgresql: Checking = {
  advice: 'Run it with: psql -XAtq -v ON_ERROR_STOP=1 -f <file>',
  begin: `BEGIN;
SET LOCAL client_min_messages = warning;
SELECT set_config('echo_rule.differing', '0', true) AS differing;`,
  block: (one, number, quote) => {
    const isOpen = one.outcome === 'either';
    return `DO $echo_rule$
DECLARE echo_rule_reached text := 'rows before'; echo_rule_message text := ''; echo_rule_outcome text;
BEGIN
  BEGIN
${indented([...one.before, "echo_rule_reached := 'record';", ...one.own, "echo_rule_reached := 'end';"])}
    RAISE EXCEPTION USING ERRCODE = 'ERU00';
  EXCEPTION WHEN OTHERS THEN GET STACKED DIAGNOSTICS echo_rule_message = MESSAGE_TEXT;
  END;
  echo_rule_outcome := CASE echo_rule_reached WHEN 'end' THEN 'accepted' WHEN 'record' THEN 'refused' ELSE 'not run' END;
  IF ${isOpen ? "echo_rule_outcome <> 'not run'" : `echo_rule_outcome = ${quote(one.outcome)}`} THEN
    PERFORM set_config('echo_rule.answer', ${quote(lineOf(one, number, true))}, true);
  ELSE
    PERFORM set_config('echo_rule.answer', ${quote(`${lineOf(one, number, false)} # expected ${one.expects}, but `)}
      || echo_rule_outcome || CASE WHEN echo_rule_outcome = 'accepted' THEN '' ELSE ': ' || echo_rule_message END, true);
    PERFORM set_config('echo_rule.differing', (current_setting('echo_rule.differing')::integer + 1)::text, true);
  END IF;
END
$echo_rule$;
SELECT current_setting('echo_rule.answer') AS answer;`;
  },
  end: (cases) => `DO $echo_rule$
BEGIN
  IF current_setting('echo_rule.differing') <> '0' THEN
    RAISE EXCEPTION '% of ${cases} cases differ', current_setting('echo_rule.differing');
  END IF;
END
$echo_rule$;

ROLLBACK;`,
};

function indented(lines: readonly string[]): string {
  return lines.map((line) => `    ${line}`).join('\n');
}
