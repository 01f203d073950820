import type { Schema } from '../declare/index.js';
import { decide, read } from '../meaning/index.js';
import type { Case, Row, Wire } from '../model/index.js';
import { baseOf, targetsNamed } from './base.js';
import { caseClock } from './clock.js';
import type { Context, Criterion, Draft, Stored } from './context.js';
import { edges } from './edges.js';
import { itemRules } from './item-rules.js';
import { keys } from './keys.js';
import { lists } from './lists.js';
import { patterns } from './patterns.js';
import { looseForm } from './places.js';
import { presence } from './presence.js';
import { records } from './records.js';
import { references } from './references.js';
import { rules } from './rules.js';
import { together } from './together.js';
import { types } from './types.js';
import { uniqueness } from './uniqueness.js';
import { whiteSpaces } from './white-space.js';
import { whole } from './whole.js';

/** The coverage criteria, the most telling first: of two equal inputs the first one's reason is kept. */
export const criteria: { readonly [name: string]: Criterion } = {
  whole,
  rules,
  presence,
  edges,
  lists,
  'entry rules': itemRules,
  records,
  patterns,
  uniqueness,
  references,
  'white space': whiteSpaces,
  types,
  keys,
  together,
};

/** Far enough from the first seed that the samples of both share no value. */
const OTHER_SEED = 11;

/**
 * The boundary cases of one ruleset of a schema, with the verdict that the meaning gives each. The same schema gives the
 * same cases with the same ids.
 *
 * @throws ProblemError `no_base` where no valid record was found to start from
 */
export function casesFor(model: Schema[number], schema: Schema): readonly Case[] {
  const { row: base, before, choices, settle } = baseOf(model, schema, 0);
  const other = baseOf(model, schema, OTHER_SEED);
  const context: Context = {
    model,
    base,
    before,
    choices,
    settle,
    targets: (row) => targetsNamed(row, model, schema),
    other: other.row,
    otherBefore: other.before,
  };
  const counts = new Map<string, number>();
  const seen = new Set<string>();
  return Object.entries(criteria).flatMap(([criterion, drafts]) =>
    drafts(context).flatMap((draft) => {
      const stored = draft.before ?? before;
      const content = JSON.stringify([draft.wire, draft.input, stored]);
      if (seen.has(content)) return [];
      seen.add(content);
      const place = `${draft.constraint}/${criterion.replace(' ', '-')}/${draft.wire}`;
      const count = (counts.get(place) ?? 0) + 1;
      counts.set(place, count);
      return [finished(draft, `${place}/${count}`, criterion, stored, model)];
    }),
  );
}

/**
 * One record as a case, with the rows beside it that its references name, as far as they can be made valid. What it is
 * about is the record as a whole. `on` puts it on another wire than it came by: what can't be read is sent as it is.
 */
export function caseOf(given: unknown, by: Wire, model: Schema[number], schema: Schema, on: Wire = by): Case {
  const constraint = `${model.ruleset}.type`;
  const input = on === by ? given : sentOn(on, given, by, model);
  const wire = on;
  const draft: Draft = { constraint, reason: 'a record given by hand', wire, input };
  const named = typeof input === 'object' && input !== null ? read(model, input as Row, wire) : {};
  const before = targetsNamed(named, model, schema);
  return finished(draft, `${constraint}/tried/${wire}/1`, 'tried', before, model);
}

/** The record as another wire carries it: canonical values; a form's are text, and an absent one is empty. */
function sentOn(wire: Wire, given: unknown, by: Wire, model: Schema[number]): unknown {
  if (typeof given !== 'object' || given === null || Array.isArray(given)) return given;
  const row = read(model, given as Row, by);
  if (wire !== 'form') return row;
  const text = (value: unknown) =>
    typeof value === 'object' && value !== null ? JSON.stringify(value) : String(value ?? '');
  return Object.fromEntries(Object.entries(looseForm(model, row)).map(([name, value]) => [name, text(value)]));
}

function finished(draft: Draft, id: string, criterion: string, before: readonly Stored[], model: Schema[number]): Case {
  const clock = caseClock(model);
  const store = (ruleset: string) => before.filter((stored) => stored.ruleset === ruleset).map(({ row }) => row);
  return {
    id,
    ruleset: model.ruleset,
    constraint: draft.constraint,
    criterion,
    reason: draft.reason,
    does: 'insert',
    wire: draft.wire,
    clock,
    before,
    input: draft.input,
    expected: decide(model, draft.input, draft.wire, { store, clock }),
  };
}
