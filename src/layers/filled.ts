import type { Schema } from '../core/declare/index.js';
import { tablesOf, tableTargets } from '../core/targets/index.js';
import type { Connection } from '../server/connections/index.js';

/** The rulesets whose tables hold rows; of those that are probed, every table is there. */
export async function filledIn(connection: Connection, schema: Schema): Promise<ReadonlySet<string>> {
  const { spelling } = tableTargets[connection.engine];
  const filled = new Set<string>();
  for (const model of schema) {
    const table = spelling.name(tablesOf(model)[0]?.name ?? model.table);
    const rows = await connection.rows(`SELECT 1 AS found FROM ${table} LIMIT 1`, []).catch(() => []);
    if (rows.length > 0) filled.add(model.ruleset);
  }
  return filled;
}
