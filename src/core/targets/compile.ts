import type { Schema } from '../declare/index.js';
import { type Problem, ProblemError } from '../messages/index.js';
import type { Entry } from '../model/index.js';
import { ledgerOf, type TargetName, targetNames, targets } from './registry.js';
import type { MadeFile } from './target.js';

/** Everything that is made of a schema. */
export interface Compiled {
  readonly files: readonly MadeFile[];
  /** What each rule became in each target, and how true that is. */
  readonly ledger: readonly Entry[];
}

/**
 * Compiles a schema for targets, all of them unless told.
 *
 * @throws ProblemError where a target can't have something: nothing is made then
 */
export function compileSchema(schema: Schema, names: readonly TargetName[] = targetNames): Compiled {
  const found = names.flatMap((name) => targets[name].problems(schema));
  if (found.length > 0) throw new ProblemError(once(found));
  return { files: names.flatMap((name) => targets[name].emit(schema)), ledger: ledgerOf(schema, names) };
}

/** Engines of one dialect say the same of the same name. */
function once(found: readonly Problem[]): readonly Problem[] {
  return [...new Map(found.map((problem) => [`${problem.message} ${problem.place?.line}`, problem])).values()];
}
