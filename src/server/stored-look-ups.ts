import type { AnyRuleset } from '../core/declare/index.js';
import { read } from '../core/meaning/index.js';
import type { Row, Violation } from '../core/model/index.js';
import { connectionOf, type Handle } from './connections/index.js';
import { brokenLookUps } from './look-ups.js';
import { inOrder, inWords, modelIn, schemaFor } from './violations.js';
import type { WriteOptions } from './write.js';

/** What was sent as a record, as far as it can be read, over what is stored; null where it is none. */
export function uncheckedRecord(
  { model }: AnyRuleset,
  { wire, input }: { readonly wire: 'json' | 'form'; readonly input: unknown },
  existing: object | undefined,
): Row | null {
  if (typeof input !== 'object' || input === null || Array.isArray(input)) return null;
  const given = read(model, input as { readonly [name: string]: unknown }, wire);
  if (existing === undefined) return given;
  const sent = Object.entries(given).filter(([name]) =>
    Object.keys(input).some((key) => key.split(/[.[]/)[0] === name),
  );
  return { ...(existing as Row), ...Object.fromEntries(sent) };
}

/** Violations of a record, and those of its `unique` and `reference` rules on fields that are right, in order. */
export async function lookUpsOf(
  handle: Handle,
  ruleset: AnyRuleset,
  record: Row,
  violations: readonly Violation[],
  { rulesets, messages, key }: WriteOptions,
): Promise<readonly Violation[]> {
  const schema = schemaFor(ruleset, rulesets);
  const model = modelIn(schema, ruleset.name);
  const found = await brokenLookUps(connectionOf(handle), model, schema, record, violations, key ?? null);
  return inOrder([...violations, ...inWords(found, messages)], model);
}
