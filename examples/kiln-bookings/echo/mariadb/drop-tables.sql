-- Made by echo-rule from rules/kiln.rules.ts, rules/potter.rules.ts, rules/firing.rules.ts. Change the rules, not this file: it is made again.
-- Digest: sha256-64085647d5b34239b57fa3fd5b19b0757aee4ace0d8db1f2d7023eb0e69f2359

-- Drops the tables and every row in them.

DROP TABLE IF EXISTS `firings_helpers`;
DROP TABLE IF EXISTS `firings`;
DROP TABLE IF EXISTS `potters`;
DROP TABLE IF EXISTS `kilns`;
