import type { Decider } from '../decider/index.js';
import type { Schema } from '../declare/index.js';
import type { Store } from '../meaning/index.js';
import type { Case, Row } from '../model/index.js';
import { caseClock } from './clock.js';
import type { Draft, Stored } from './context.js';

export interface Naming {
  readonly id: string;
  readonly criterion: string;
  readonly before: readonly Stored[];
  readonly on?: Case['on'];
  /** What is sent, where it is not just what the draft sends. */
  readonly input?: unknown;
}

/** Stored rows by their ruleset. */
export function storeOf(before: readonly Stored[]): Store {
  const rows = new Map<string, readonly Row[]>();
  return (ruleset) => {
    const known = rows.get(ruleset) ?? before.filter((stored) => stored.ruleset === ruleset).map(({ row }) => row);
    rows.set(ruleset, known);
    return known;
  };
}

/** A draft as a case, with the verdict that the meaning gives it. */
export function finished(
  draft: Draft,
  { id, criterion, before, on = 'server', input = draft.input }: Naming,
  model: Schema[number],
  decide: Decider,
  store: Store = storeOf(before),
): Case {
  const clock = caseClock(model);
  const { does = 'insert', existing = null, wire } = draft;
  return {
    id,
    ruleset: model.ruleset,
    constraint: draft.constraint,
    criterion,
    reason: draft.reason,
    does,
    wire,
    on,
    clock,
    before,
    existing,
    input,
    expected: draft.expected ?? decide(input, wire, { store, clock, partial: does === 'patch', existing }),
  };
}
