import { edgesOf, facetRules, type KnownField, valueField } from '../kinds/index.js';
import type { Pattern, Value } from '../model/index.js';
import { type Criterion, changed, facetOf } from './context.js';
import type { Grammars } from './grammars.js';
import { singleFields } from './places.js';

interface Edge {
  readonly facet: string;
  readonly value: Value;
  readonly words: string;
}

/** Every limit at distance 0 and one step beyond it, and every choice. */
export const edges: Criterion = (context) =>
  singleFields(context.model).flatMap((field) => {
    const inner = valueField(field);
    const { grammars } = context;
    const found =
      inner.facets.pattern == null
        ? [...edgesOf(field), ...lengthsInGrammar(inner, grammars)]
        : lengthsWithin(inner, grammars);
    return found.flatMap(({ facet, value, words }) =>
      changed(context, { [field.path]: value }, { constraint: facetOf(context, field.path, facet), reason: words }),
    );
  });

/** Lengths at declared limits, in texts of the kind's own grammar. */
function lengthsInGrammar(field: KnownField, grammars: Grammars): readonly Edge[] {
  const rule = facetRules(field).find(({ facet }) => facet === 'format');
  if (rule?.predicate.op !== 'matches') return [];
  return lengthsWithin({ ...field, facets: { ...field.facets, pattern: rule.predicate.pattern as never } }, grammars);
}

/** Lengths at the limits, in texts that the pattern allows: so that a refusal has one reason. */
function lengthsWithin(field: KnownField, grammars: Grammars): readonly Edge[] {
  const { minLength, maxLength, pattern } = field.facets;
  const wanted: [facet: string, length: number, words: string][] = [];
  if (typeof minLength === 'number') {
    wanted.push(['minLength', minLength - 1, 'one character below the least length']);
    wanted.push(['minLength', minLength, 'exactly the least length']);
  }
  if (typeof maxLength === 'number') {
    wanted.push(['maxLength', maxLength, 'exactly the greatest length']);
    wanted.push(['maxLength', maxLength + 1, 'one character above the greatest length']);
  }
  if (wanted.length === 0) return [];
  if (grammars.routesOf(pattern as Pattern) === null) return edgesOf(field);
  return wanted.flatMap(([facet, length, words]) => {
    const value = length < 1 ? null : grammars.wordOfLength(pattern as Pattern, length, 0);
    if (value !== null) return [{ facet, value, words }];
    // Beyond a limit the pattern may have no text of that length: then both are broken.
    const isBeyond = length === Number(minLength) - 1 || length === Number(maxLength) + 1;
    const other = isBeyond ? ofLength(pattern as Pattern, length, grammars) : null;
    return other === null ? [] : [{ facet, value: other, words }];
  });
}

/** The beginning of a text of a pattern, repeated up to a length; null where the pattern has no text. */
function ofLength(pattern: Pattern, length: number, grammars: Grammars): string | null {
  const word = grammars.wordsOf(pattern, 0).find((one) => one.trim() !== '');
  if (word === undefined || length < 1) return null;
  const characters = [...word.trim()];
  return Array.from({ length }, (_, at) => characters[at % characters.length]).join('');
}
