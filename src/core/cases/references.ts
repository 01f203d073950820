import { type Criterion, carried } from './context.js';

/** The target must be there. */
export const references: Criterion = (context) =>
  context.model.constraints.flatMap(({ id, predicate }) => {
    if (predicate.op !== 'refersTo') return [];
    const without = context.before.filter(({ ruleset }) => ruleset !== predicate.to);
    return (['json', 'row'] as const).map((wire) => ({
      constraint: id,
      reason: `the ${predicate.to} it names is not stored`,
      wire,
      input: carried(context, context.base, wire),
      before: without,
    }));
  });
