import type { Schema } from '../../core/declare/index.js';
import type { Case } from '../../core/model/index.js';
import { verdictOn } from '../run.js';

/** True where the meaning, by itself, gives the verdict that the case expects. */
export function isConfirmed(one: Case, model: Schema[number]): boolean {
  const { does, wire, input, expected } = one;
  // A deletion sends no record, and what a secret is stored as is no input: those verdicts are not of a record alone.
  if (does === 'delete' || (wire === 'row' && hasStoredForm(input, model))) return true;
  return JSON.stringify(verdictOn(one, model)) === JSON.stringify(expected);
}

function hasStoredForm(input: unknown, { fields }: Schema[number]): boolean {
  const stored = Object.values(fields).flatMap(({ storedAs }) => storedAs ?? []);
  return typeof input === 'object' && input !== null && stored.some((name) => Object.hasOwn(input, name));
}
