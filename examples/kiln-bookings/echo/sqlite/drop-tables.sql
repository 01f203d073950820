-- Made by echo-rule from rules/kiln.rules.ts, rules/potter.rules.ts, rules/firing.rules.ts. Change the rules, not this file: it is made again.
-- Digest: sha256-2f86dba51d84e5d5896035d9799a247b9a7530b724a68b268a4b56c1c3781690

-- Drops the tables and every row in them.

BEGIN;
PRAGMA defer_foreign_keys = ON;

DROP TABLE IF EXISTS firings_helpers;
DROP TABLE IF EXISTS firings;
DROP TABLE IF EXISTS potters;
DROP TABLE IF EXISTS kilns;

COMMIT;
