-- Made by echo-rule from rules/kiln.rules.ts, rules/potter.rules.ts, rules/firing.rules.ts. Change the rules, not this file: it is made again.
-- Digest: sha256-e95b84dccfb3188865b9d2c0679082a65597a2f6ecf38fa9c87f5b0258a5fac2

-- Drops the tables and every row in them.

DROP TABLE IF EXISTS firings_helpers, firings, potters, kilns;
