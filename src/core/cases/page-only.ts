import type { KnownField } from '../kinds/index.js';
import { decider, encode } from '../meaning/index.js';
import { fieldAt, formName, isSent, type Model, type Row, withValue } from '../model/index.js';
import { candidatesOf } from './candidates.js';
import { caseClock } from './clock.js';

/**
 * What a form sends for fields that only the page has, such as a repeated entry: values that go with the base. A server
 * passes them over; without them the page would send nothing.
 */
export function pageEntries(model: Model<KnownField['kind']>, base: Row): { readonly [name: string]: unknown } {
  const own = Object.values(model.fields).filter((field) => isSent(field) && !field.enforcedIn.includes('server'));
  const decide = decider(model, ['client', 'server']);
  const clock = caseClock(model);
  let row = base;
  for (const field of own.filter(({ fields, item }) => fields === null && item === null)) {
    const likely = [...Object.values(base), ...candidatesOf(fieldAt(model, field.path), 0)];
    const found = likely.find((value) => {
      const verdict = decide(withValue(row, field.path, value ?? null), 'row', { clock });
      const told = 'refused' in verdict ? verdict.refused : [];
      const about = model.constraints.filter(
        ({ subjects, owner }) => owner === field.path || subjects.includes(field.path),
      );
      return value !== null && !told.some(({ rule }) => about.some(({ id }) => id === rule));
    });
    if (found !== undefined) row = withValue(row, field.path, found);
  }
  const entries = encode(model, row, 'form');
  const names = own.map(({ path }) => formName(path));
  return Object.fromEntries(names.filter((name) => Object.hasOwn(entries, name)).map((name) => [name, entries[name]]));
}
