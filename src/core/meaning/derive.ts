import { canonicalValue, decodeValue } from '../kinds/index.js';
import type { Model, Row } from '../model/index.js';
import { valueOfTerm } from '../operators/index.js';
import { type GivenClock, readClock } from './clock.js';
import { judgedAlone, judgingOf } from './judging.js';

/** The values of the derived fields of an accepted record, in canonical form. */
export function derive(model: Model, row: Row, clock?: GivenClock): Row {
  const judging = judgingOf(judgedAlone(model, row, readClock(clock, model.zone)));
  const derived = Object.values(model.fields).flatMap((field) => {
    if (field.derivation === null) return [];
    const value = valueOfTerm(field.derivation, judging);
    // A form's spelling is plain text for every kind, and so reads what arithmetic gives.
    const decoded = value === null ? { value } : decodeValue(field, String(value), 'form');
    return [[field.name, 'value' in decoded ? canonicalValue(field, decoded.value) : null]];
  });
  return Object.fromEntries(derived);
}
