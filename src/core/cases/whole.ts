import { wires } from '../model/index.js';
import { applied, type Criterion, carried } from './context.js';
import { singleFields } from './places.js';

/** A valid record is accepted: with every field, and with no optional one; what is no record is refused. */
export const whole: Criterion = (context) => {
  const { model, base } = context;
  const constraint = `${model.ruleset}.type`;
  const optional = singleFields(model).filter((field) => field.optional);
  const fewest = applied(base, Object.fromEntries(optional.map(({ path }) => [path, null])));
  const records = Object.values(model.fields).filter((field) => field.fields !== null && field.optional);
  const bare = { ...fewest, ...Object.fromEntries(records.map(({ name }) => [name, null])) };
  return [
    ...wires.flatMap((wire) => [
      { constraint, reason: 'a valid record with every field', wire, input: carried(context, base, wire) },
      { constraint, reason: 'a valid record with the required fields only', wire, input: carried(context, bare, wire) },
    ]),
    { constraint, reason: 'a list instead of a record', wire: 'json', input: [] },
    { constraint, reason: 'text instead of a record', wire: 'json', input: 'record' },
    { constraint, reason: 'null instead of a record', wire: 'json', input: null },
  ];
};
