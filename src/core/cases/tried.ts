import type { Schema } from '../declare/index.js';
import { read } from '../meaning/index.js';
import type { Case, Row, Wire } from '../model/index.js';
import { Bases, type Beside, targetsNamed } from './base.js';
import { finished } from './finished.js';
import { looseForm } from './places.js';

/**
 * One record as a case, with the rows beside it that its references name, as far as they can be made valid. What it is
 * about is the record as a whole. `on` puts it on another wire than it came by: what can't be read is sent as it is.
 *
 * @param beside rows that are stored already where it goes
 */
export function caseOf(
  given: unknown,
  by: Wire,
  model: Schema[number],
  schema: Schema,
  on: Wire = by,
  beside: Beside = new Map(),
): Case {
  const constraint = `${model.ruleset}.type`;
  const input = on === by ? given : sentOn(on, given, by, model);
  const named = typeof input === 'object' && input !== null ? read(model, input as Row, on) : {};
  const bases = new Bases(schema, beside);
  const before = targetsNamed(named, model, bases);
  const draft = { constraint, reason: 'a record given by hand', wire: on, input };
  const id = `${constraint}/tried/${on}/1`;
  return finished(draft, { id, criterion: 'tried', before }, model, bases.deciderOf(model));
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
