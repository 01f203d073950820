import { edgesOf, isScalar } from '../kinds/index.js';
import { type Constraint, fieldAt, type Row, type Value, valueAt } from '../model/index.js';
import { isLookup } from '../operators/index.js';
import { applied, brokenRules, type Context, type Criterion, changed } from './context.js';

/** At most so many pairs of values are tried for two fields of a rule. */
const MOST_PAIRS = 16;

/** For a rule over several fields, each two of them at the edges of their own limits at once. */
export const pairs: Criterion = (context) =>
  context.model.constraints
    .filter(({ facet, predicate, over, subjects }) => {
      const isPlain = subjects.every((path) => !path.includes('[]') && isScalar(fieldAt(context.model, path)));
      return !facet && !isLookup(predicate) && over === null && isPlain;
    })
    .flatMap((rule) =>
      pairsOf(context, rule).flatMap(({ values, broken }) => {
        const reason = `${Object.keys(values).join(' and ')} at their limits: ${broken ? 'breaks' : 'keeps'} the rule`;
        return changed(context, values, { constraint: rule.id, reason });
      }),
    );

/** Pairs of edges that break no other rule, each two values once. */
function pairsOf(context: Context, { id, subjects }: Constraint): readonly { values: Row; broken: boolean }[] {
  const paths = [...new Set(subjects)];
  return paths.flatMap((one, at) =>
    paths.slice(at + 1).flatMap((other) =>
      limitsOf(context, one)
        .flatMap((a) => limitsOf(context, other).map((b): Row => ({ [one]: a, [other]: b })))
        .slice(0, MOST_PAIRS)
        .flatMap((values) => {
          const broken = brokenRules(context, applied(context.base, values));
          return broken.every((rule) => rule === id) ? [{ values, broken: broken.length > 0 }] : [];
        }),
    ),
  );
}

/** The first and the last value that a field's own limits allow, and none where it may be absent. */
function limitsOf(context: Context, path: string): readonly Value[] {
  const field = fieldAt(context.model, path);
  const allowed = edgesOf(field)
    .filter(({ facet }) => facet === 'min' || facet === 'max' || facet === 'type')
    .map(({ value }) => value)
    .filter((value) => context.brokenWith(path, value).length === 0);
  const sorted = [...new Set(allowed)].sort((a, b) => (String(a) < String(b) ? -1 : 1));
  const ends = typeof sorted[0] === 'number' ? [...sorted].sort((a, b) => Number(a) - Number(b)) : sorted;
  return [...new Set([...ends.slice(0, 1), ...ends.slice(-1), valueAt(context.base, path)])];
}
