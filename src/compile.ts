import { caseSetsFor } from './core/cases/index.js';
import { type AnyRuleset, schemaOf } from './core/declare/index.js';
import { read } from './core/meaning/index.js';
import { ProblemError } from './core/messages/index.js';
import type { Case, Row } from './core/model/index.js';
import { type Finding, reviewSchema } from './core/review/index.js';
import { type Compiled, compileSchema, type TargetName } from './core/targets/index.js';
import { functionProblems } from './functions/index.js';

export type { Case } from './core/model/index.js';
export type { Finding } from './core/review/index.js';
export type { Compiled, MadeFile, TargetName } from './core/targets/index.js';

/**
 * Compiles rulesets that live in one database, in process: what `echo-rule compile` writes, as texts. Runs in a browser
 * too.
 *
 * @throws ProblemError where rulesets don't go together, a target can't have something, or a function of a custom rule
 *   uses what is outside of it
 */
export function compile(rulesets: readonly AnyRuleset[], targets?: readonly TargetName[]): Compiled {
  const schema = schemaOf(rulesets);
  const wrong = targets === undefined || targets.includes('javascript') ? functionProblems(schema) : [];
  if (wrong.length > 0) throw new ProblemError(wrong);
  return compileSchema(schema, targets);
}

/**
 * The boundary cases of rulesets, as `echo-rule cases` writes them.
 *
 * @throws ProblemError where rulesets don't go together, or no valid record was found to start from
 */
export function casesOf(rulesets: readonly AnyRuleset[]): readonly Case[] {
  const schema = schemaOf(rulesets);
  return caseSetsFor(schema, schema).flatMap(({ cases }) => cases);
}

/**
 * What is wrong with rulesets, by proof, before anything runs: what `echo-rule review` tells, the weightiest first.
 *
 * @throws ProblemError where rulesets don't go together
 */
export function review(rulesets: readonly AnyRuleset[]): readonly Finding[] {
  return reviewSchema(schemaOf(rulesets));
}

/** What a server that checks nothing would hand on of a form: canonical values, and as they came those that none are. */
export function unchecked({ model }: AnyRuleset, entries: { readonly [name: string]: unknown }): Row {
  return read(model, entries, 'form');
}
