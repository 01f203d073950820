import type { AnyRuleset } from '../core/declare/index.js';
import type { Row, Violation } from '../core/model/index.js';
import { type Connection, connectionOf, type Handle } from './connections/index.js';
import { refusalOf } from './database-errors/index.js';
import { brokenLookUps } from './look-ups.js';
import {
  faultsOf,
  inOrder,
  inUse,
  inWords,
  modelIn,
  schemaFor,
  type ViolationOptions,
  violationsOf,
} from './violations.js';

/** What a write gave, or all that it broke. */
export type Written<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly violations: readonly Violation[] };

export interface WriteOptions extends Omit<ViolationOptions, 'record'> {
  /** The key of the stored record that is changed, as it was before: it is no duplicate of itself. */
  readonly key?: unknown;
}

/**
 * Does a write so that a refused one leaves nothing behind and the connection usable: within a savepoint of the
 * transaction that is open, or within a transaction of its own. After a refusal the remaining `unique` and `reference`
 * rules are looked up in the same transaction, so that one answer names every broken rule.
 *
 * @param handle the open connection that `work` writes by
 * @param record the record that is written, in canonical form; null where one is deleted
 * @param work the statements
 * @throws the very error of `work` where it says of no rule that it was broken; ProblemError for a pool
 */
export async function write<T>(
  handle: Handle,
  ruleset: AnyRuleset,
  record: { readonly [field: string]: unknown } | null,
  work: () => T | Promise<T>,
  options: WriteOptions = {},
): Promise<Written<T>> {
  const connection = connectionOf(handle);
  const within = await connection.inTransaction();
  const { begin, keep, undo } = within ? savepoint : transaction;
  await connection.run(begin);
  try {
    const value = await work();
    await connection.run(keep);
    return { ok: true, value };
  } catch (error) {
    // Without a savepoint to go back to (a deadlock takes the whole transaction) there is nothing to undo.
    await connection.run(undo).catch(() => {});
    const violations = await broken(connection, error, ruleset, record as Row | null, options);
    if (violations === null) throw error;
    return { ok: false, violations: inWords(violations, options) };
  } finally {
    if (within) await connection.run('RELEASE SAVEPOINT echo_rule_write').catch(() => {});
  }
}

const savepoint = {
  begin: 'SAVEPOINT echo_rule_write',
  keep: 'SELECT 1',
  undo: 'ROLLBACK TO SAVEPOINT echo_rule_write',
} as const;
const transaction = { begin: 'BEGIN', keep: 'COMMIT', undo: 'ROLLBACK' } as const;

/** All that a refused write broke; null where the error is no refusal. */
async function broken(
  connection: Connection,
  error: unknown,
  ruleset: AnyRuleset,
  record: Row | null,
  { rulesets, key }: WriteOptions,
): Promise<readonly Violation[] | null> {
  const schema = schemaFor(ruleset, rulesets);
  const model = modelIn(schema, ruleset.name);
  const refusal = refusalOf(error, model);
  if (refusal === null) return null;
  if (record === null) {
    return refusal.kind === 'foreignKey' && refusal.constraint === null
      ? [inUse(model, null)]
      : violationsOf(refusal, model, schema);
  }
  const faults = faultsOf(model, record);
  const looked = await brokenLookUps(connection, model, schema, record, faults, key ?? null);
  const told = violationsOf(refusal, model, schema, record);
  // What was found in the record says more than the engine's bare refusal, and at which item of a list it is.
  const found = [...faults, ...looked];
  const isBare = ({ rule }: Violation) => rule.endsWith('.refused') || found.some((one) => one.rule === rule);
  const more = found.length > 0 ? told.filter((one) => !isBare(one)) : told;
  return inOrder([...found, ...more], model);
}
