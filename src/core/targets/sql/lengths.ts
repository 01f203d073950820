import { facetRules, type KnownField } from '../../kinds/index.js';
import type { Pattern } from '../../model/index.js';
import { factsOf, NotRegular, readShape } from '../../reason/index.js';

/** The most characters that a text's rules allow; infinity where they set no end. */
export function longest(field: KnownField): number {
  const limits = facetRules(field).map(({ predicate }) => {
    if (predicate.op === 'matches') return longestOf(predicate.pattern);
    const isLength = predicate.op === 'compare' && predicate.left.term === 'length' && predicate.by === '<=';
    return isLength && predicate.right.term === 'literal' ? Number(predicate.right.value) : Number.POSITIVE_INFINITY;
  });
  return Math.min(Number.POSITIVE_INFINITY, ...limits);
}

function longestOf(pattern: Pattern): number {
  try {
    return factsOf(readShape(pattern)).longest;
  } catch (error) {
    if (error instanceof NotRegular) return Number.POSITIVE_INFINITY;
    throw error;
  }
}
