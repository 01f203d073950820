import type { Schema } from '../../core/declare/index.js';
import { decide } from '../../core/meaning/index.js';
import type { Case } from '../../core/model/index.js';

/** True where the meaning gives the verdict that the case expects. */
export function isConfirmed(one: Case, model: Schema[number]): boolean {
  const { does, input, wire, clock, before, existing, expected } = one;
  // A deletion sends no record, and what a secret is stored as is no input: those verdicts are not of a record alone.
  if (does === 'delete' || (wire === 'row' && hasStoredForm(input, model))) return true;
  const store = (ruleset: string) => before.filter((stored) => stored.ruleset === ruleset).map(({ row }) => row);
  const how = { clock, store, existing, partial: does === 'patch' };
  return JSON.stringify(decide(model, input, wire, how)) === JSON.stringify(expected);
}

function hasStoredForm(input: unknown, { fields }: Schema[number]): boolean {
  const stored = Object.values(fields).flatMap(({ storedAs }) => storedAs ?? []);
  return typeof input === 'object' && input !== null && stored.some((name) => Object.hasOwn(input, name));
}
