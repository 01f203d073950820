import { type Checking, lineOf } from './script.js';

/** A compound statement with a handler: what was reached when an error came says whether the record was accepted. */
export const mariadb: Checking = {
  advice: 'Run it with: mariadb --batch --skip-column-names < <file>',
  begin: `SET NAMES utf8mb4;
SET @echo_rule_differing = 0;
START TRANSACTION;`,
  block: (one, number, quote) => {
    const isOpen = one.outcome === 'either';
    const ok = isOpen ? "@echo_rule_outcome <> 'not run'" : `@echo_rule_outcome = ${quote(one.outcome)}`;
    const differs = quote(`${lineOf(one, number, false)} # expected ${one.expects}, but `);
    return `DELIMITER $$
BEGIN NOT ATOMIC
  DECLARE CONTINUE HANDLER FOR 1265 BEGIN END;
  DECLARE EXIT HANDLER FOR SQLEXCEPTION BEGIN
    GET DIAGNOSTICS CONDITION 1 @echo_rule_message = MESSAGE_TEXT;
    ROLLBACK TO SAVEPOINT echo_rule_case;
  END;
  SET @echo_rule_outcome = 'not run', @echo_rule_message = '';
  SAVEPOINT echo_rule_case;
${[...one.before, "SET @echo_rule_outcome = 'refused';", ...one.own, "SET @echo_rule_outcome = 'accepted';"].map((line) => `  ${line}`).join('\n')}
  ROLLBACK TO SAVEPOINT echo_rule_case;
END$$
DELIMITER ;
SET @echo_rule_differing = @echo_rule_differing + (NOT (${ok}));
SELECT if(${ok}, ${quote(lineOf(one, number, true))}, concat(${differs}, @echo_rule_outcome, ' ', @echo_rule_message)) AS answer;`;
  },
  end: (cases) => `ROLLBACK;

SET @echo_rule_differing = concat(@echo_rule_differing, ' of ${cases} cases differ');
EXECUTE IMMEDIATE if(@echo_rule_differing LIKE '0 %', 'DO 0', 'SIGNAL SQLSTATE ''45000'' SET MESSAGE_TEXT = @echo_rule_differing');`,
};
