import type { Answer, Case, Model, Row, Verdict } from '../core/model/index.js';
import { alteredFields } from './altered-fields.js';
import type { MismatchKind } from './judge.js';

/** What is wrong with an answer, and of which kind that is; null where nothing is. */
export interface Fault {
  readonly kind: MismatchKind;
  readonly reason: string;
}

/** What a layer does otherwise than expected when a row is deleted that a record refers to. */
export function deletionFault(
  { expected }: Pick<Case, 'expected'>,
  answer: Exclude<Answer, { readonly breakdown: string } | { readonly notApplicable: string }>,
  model: Model,
): Fault | null {
  if ('accepted' in answer) return faultOfLeft(expected, answer.accepted, model);
  const blamed = answer.refused.map(({ rule, message }) => rule ?? message);
  if ('accepted' in expected) return { kind: 'verdict', reason: `refuses the deletion: ${blamed.join('; ')}` };
  const isExpected = answer.refused.every(
    ({ rule }) => rule === null || expected.refused.some((one) => one.rule === rule),
  );
  return isExpected ? null : { kind: 'blame', reason: `blames ${blamed.join(', ')} instead of the reference` };
}

/** What is left of the record: all of it but what the reference takes with it; or nothing, where it is deleted too. */
function faultOfLeft(expected: Verdict, left: Row | null, model: Model): Fault | null {
  if ('refused' in expected) return { kind: 'verdict', reason: 'deletes what the record refers to' };
  if (left === null) return null;
  const isGone = Object.keys(left).length === 0;
  const isDeleted = Object.keys(expected.accepted).length === 0;
  if (isDeleted) return isGone ? null : { kind: 'altered', reason: 'keeps the record, which is to be deleted too' };
  if (isGone) return { kind: 'altered', reason: 'deletes the record, which is to stay' };
  const altered = alteredFields(model, expected.accepted, left);
  return altered.length === 0
    ? null
    : { kind: 'altered', reason: `leaves ${altered.map(({ words }) => words).join(', ')}` };
}
