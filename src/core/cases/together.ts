import { isSent } from '../model/index.js';
import type { Criterion } from './context.js';
import { twoRepeats } from './lists.js';

/** Every fault of a record is told in one answer, never the first only. */
export const together: Criterion = (context) => {
  const { model } = context;
  const constraint = `${model.ruleset}.type`;
  const paths = Object.values(model.fields)
    .filter(isSent)
    .map(({ name }) => name);
  const each = (value: unknown) => Object.fromEntries(paths.map((path) => [path, value]));
  return [
    { constraint, reason: 'nothing given at all', wire: 'json', input: {} },
    { constraint, reason: 'nothing given at all', wire: 'form', input: {} },
    { constraint, reason: 'every field of a wrong type', wire: 'json', input: each({}) },
    { constraint, reason: 'every field sent twice', wire: 'form', input: each(['one', 'two']) },
    ...twoRepeats(context),
  ];
};
