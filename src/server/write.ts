import type { AnyRuleset } from '../core/declare/index.js';
import type { Row, Violation } from '../core/model/index.js';
import { type Connection, connectionOf, type Handle } from './connections/index.js';
import { namesOf, refusalOf } from './database-errors/index.js';
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
 * @param value the record that is written, in canonical form; null where one is deleted
 * @param work the statements
 * @throws the very error of `work` where it says of no rule that it was broken; ProblemError for a pool
 */
export async function write<T>(
  handle: Handle,
  ruleset: AnyRuleset,
  value: object | null,
  work: () => T | Promise<T>,
  options: WriteOptions = {},
): Promise<Written<T>> {
  const record: { readonly [field: string]: unknown } | null = value === null ? null : { ...value };
  const connection = connectionOf(handle);
  const isWithin = await connection.inTransaction();
  if (!isWithin) await connection.run('BEGIN');
  await connection.run('SAVEPOINT echo_rule_write');
  try {
    const value = await work();
    await connection.run('RELEASE SAVEPOINT echo_rule_write');
    // A deferred constraint speaks here.
    if (!isWithin) await connection.run('COMMIT');
    return { ok: true, value };
  } catch (error) {
    await undone(connection, 'ROLLBACK TO SAVEPOINT echo_rule_write');
    const violations = await broken(connection, error, ruleset, record as Row | null, options).finally(() =>
      undone(connection, isWithin ? 'RELEASE SAVEPOINT echo_rule_write' : 'ROLLBACK'),
    );
    if (violations === null) throw error;
    return { ok: false, violations };
  }
}

/** Where a deadlock or a refused commit took the whole transaction, there is nothing left to go back to. */
async function undone(connection: Connection, statement: string): Promise<void> {
  await connection.run(statement).catch(() => {});
}

/** All that a refused write broke; null where the error is no refusal. */
async function broken(
  connection: Connection,
  error: unknown,
  ruleset: AnyRuleset,
  record: Row | null,
  { rulesets, key, messages }: WriteOptions,
): Promise<readonly Violation[] | null> {
  const schema = schemaFor(ruleset, rulesets);
  const model = modelIn(schema, ruleset.name);
  const refusal = refusalOf(error, namesOf(model));
  if (refusal === null) return null;
  if (record === null) {
    return refusal.kind === 'foreignKey' && refusal.constraint === null
      ? [inUse(model, null, messages)]
      : violationsOf(refusal, model, schema, { messages });
  }
  const faults = faultsOf(model, record, key !== undefined);
  const looked = await brokenLookUps(connection, model, schema, record, faults, key ?? null);
  const told = violationsOf(refusal, model, schema, { record, messages }, key !== undefined);
  // What was found in the record says more than the engine's bare refusal, and at which item of a list it is.
  const found = [...faults, ...looked];
  const isBare = ({ rule }: Violation) => rule.endsWith('.refused') || found.some((one) => one.rule === rule);
  const more = found.length > 0 ? told.filter((one) => !isBare(one)) : told;
  return inOrder([...inWords(found, messages), ...more], model);
}
