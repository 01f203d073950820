import {
  type Domain,
  exactOf,
  exactText,
  type Field,
  fieldTerm,
  isMultiple,
  literalTerm,
  multipleBeyond,
  type Value,
} from '../model/index.js';
import type { Edge, FacetRule } from './kind.js';

/** The rules of `min` and `max`, for every kind whose values have an order. */
export function limitRules(field: Field, domain: Domain): readonly FacetRule[] {
  const rule = (facet: 'min' | 'max', by: '>=' | '<='): readonly FacetRule[] => {
    const limit = field.facets[facet];
    if (typeof limit !== 'string' && typeof limit !== 'number') return [];
    const predicate = {
      op: 'compare',
      left: fieldTerm(field.path),
      by,
      right: literalTerm(limit, domain),
      domain,
    } as const;
    return [{ facet, stage: 'comparison', limit, predicate }];
  };
  return [...rule('min', '>='), ...rule('max', '<=')];
}

/** The values at `min` and `max` and one step to both sides; those of the kind itself where the field has no limit. */
export function limitEdges(
  field: Field,
  step: (value: Value, to: 1 | -1) => Value,
  ends: readonly [least: Edge | null, greatest: Edge | null],
): readonly Edge[] {
  const { min, max } = field.facets;
  const edges: Edge[] = [];
  const add = (facet: string, value: Value, words: string) => {
    if (value !== null) edges.push({ facet, value, words });
  };
  if (min !== undefined) {
    add('min', min, 'exactly the least value');
    add('min', step(min, -1), 'one step below the least value');
    add('min', step(min, 1), 'one step above the least value');
  } else if (ends[0] !== null) edges.push(ends[0]);
  if (max !== undefined) {
    add('max', max, 'exactly the greatest value');
    add('max', step(max, 1), 'one step above the greatest value');
    add('max', step(max, -1), 'one step below the greatest value');
  } else if (ends[1] !== null) edges.push(ends[1]);
  return edges;
}

/**
 * The multiples of a step at both sides of the limits: too much, or just not, and nothing else.
 *
 * @param unit the field's own last digit: what it can hold are multiples of that where no step is told
 * @param held a number as the field holds it
 */
export function multipleEdges(
  { facets }: Pick<Field, 'facets'>,
  unit: string,
  held: (text: string) => Value,
): readonly Edge[] {
  const step = exactOf(facets.step ?? unit);
  const beside = (facet: 'min' | 'max', to: 1 | -1, words: string): readonly Edge[] => {
    const limit = exactOf(facets[facet]);
    // At a limit that can be held itself, its neighbours are edges already.
    if (step === null || limit === null || (facets.step === undefined && isMultiple(limit, step))) return [];
    const value = held(exactText(multipleBeyond(limit, step, to)));
    return value === null ? [] : [{ facet, value, words }];
  };
  const of = facets.step === undefined ? 'number' : 'multiple of the step';
  return [
    ...beside('min', -1, `the last ${of} below the least value`),
    ...beside('min', 1, `the first ${of} above the least value`),
    ...beside('max', 1, `the first ${of} above the greatest value`),
    ...beside('max', -1, `the last ${of} below the greatest value`),
  ];
}

/** The usual value where the limits allow it, and else the limit that it is beyond: samples stay as limits move. */
export function usualWithin({ facets: { min, max } }: Field, usual: string): string {
  if (typeof min === 'string' && usual < min) return min;
  return typeof max === 'string' && usual > max ? max : usual;
}
