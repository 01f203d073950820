import { edgesOf, type KnownField, valueField } from '../../kinds/index.js';
import type { Value } from '../../model/index.js';
import type { Rewrite, Rewriting } from '../mistake.js';
import { facetsNamed } from '../places.js';
import { withFacets } from '../remodel.js';

const limits = ['min', 'max', 'minLength', 'maxLength', 'minItems', 'maxItems'] as const;
const isLeast = (facet: string) => facet.startsWith('min');

/** A limit lets one step too much in. */
export const limitLoose: Rewriting = (model) =>
  moved(model, (facet) => (isLeast(facet) ? -1 : 1), 'lets one step too much in');

/** A limit keeps one step too much out. */
export const limitTight: Rewriting = (model) =>
  moved(model, (facet) => (isLeast(facet) ? 1 : -1), 'keeps one step too much out');

function moved(model: Parameters<Rewriting>[0], by: (facet: string) => number, words: string): readonly Rewrite[] {
  return limits.flatMap((facet) =>
    facetsNamed(model, facet).flatMap(({ field, value, constraint }) => {
      const next = stepFrom(field, facet, value, by(facet));
      if (next === null) return [];
      return [
        {
          model: withFacets(model, field.path, { [facet]: next }),
          words: `${facet} ${words}`,
          constraint: constraint.id,
        },
      ];
    }),
  );
}

/** The neighbour of a limit: counts by one, any other value by the edges of its kind. */
function stepFrom(field: KnownField, facet: string, value: Value, by: number): Value {
  if (/Length$|Items$/.test(facet)) return typeof value === 'number' && value + by >= 0 ? value + by : null;
  const inner = valueField(field);
  const said = `one step ${by < 0 ? 'below' : 'above'} the ${facet === 'min' ? 'least' : 'greatest'} value`;
  return (
    edgesOf({ ...inner, path: field.path }).find((edge) => edge.facet === facet && edge.words === said)?.value ?? null
  );
}
