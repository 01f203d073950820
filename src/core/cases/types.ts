import { sampleOf } from '../kinds/index.js';
import { valueAt, wires } from '../model/index.js';
import { type Criterion, facetOf, givenIn, rawEntry } from './context.js';
import { singleFields } from './places.js';
import { trapsFor } from './traps.js';

/** What came in is in the grammar of the field's kind: every trap of each wire. */
export const types: Criterion = (whole) =>
  singleFields(whole.model).flatMap((field) => {
    const context = givenIn(whole, [field.path]);
    const constraint = facetOf(context, field.path, 'type');
    const value = valueAt(context.base, field.path) ?? sampleOf(field, 0);
    return wires.flatMap((wire) =>
      trapsFor(field, value, wire).map(([raw, reason]) =>
        rawEntry(context, wire, field.path, raw, { constraint, reason }),
      ),
    );
  });
