import type { Schema } from '../core/declare/index.js';
import type { FilledRuleset } from '../core/fill/index.js';
import type { EngineName } from '../core/targets/index.js';
import { modelOf } from '../layers/layer.js';
import { countingOn, insertStatements } from '../server/statements.js';

/** Records as the statements that insert them, each ruleset behind those that it refers to. */
export async function recordStatements(
  filled: readonly FilledRuleset[],
  engine: EngineName,
  schema: Schema,
): Promise<readonly string[]> {
  const statements: string[] = [];
  for (const { ruleset, rows, counted } of filled) {
    const model = modelOf(ruleset, schema);
    for (const [at, row] of rows.entries()) {
      statements.push(
        ...(await insertStatements(model, row, schema, engine, model.key === null ? counted + at + 1 : null)),
      );
    }
    statements.push(...countingOn(model, engine));
  }
  return statements;
}
