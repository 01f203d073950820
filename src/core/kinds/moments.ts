import type { Domain, Field, Value, Wire } from '../model/index.js';
import type { Decoded, Edge, Kind } from './kind.js';
import { refused } from './kind.js';
import { limitEdges, limitRules } from './limits.js';
import { scalar } from './scalar.js';

/** How many digits of a second's fraction a field has. */
export function fractionOf({ facets }: Field): number {
  return typeof facets.fraction === 'number' ? facets.fraction : 0;
}

/** What the kinds of times have in common: one canonical spelling, which is the only one on the row wire. */
export function momentKind(
  domain: Domain,
  canonical: (text: string, fraction: number, needsSeconds: boolean) => string | null,
  step: (moment: string, seconds: number) => string | null,
  ends: readonly [least: string, greatest: string],
  turns: readonly (readonly [moment: string, words: string])[],
): Omit<typeof scalar, 'rules' | 'edges'> & Pick<Kind, 'decode' | 'rules' | 'edges'> {
  const own = (field: Field, text: string) => canonical(text, fractionOf(field), false);
  const decode = (field: Field, input: unknown, wire: Wire): Decoded => {
    const value = typeof input === 'string' ? canonical(input, fractionOf(field), wire !== 'form') : null;
    return value === null || (wire === 'row' && value !== input) ? refused : { value };
  };
  const edge = (field: Field, value: string, words: string): Edge | null => {
    const spelled = own(field, value);
    return spelled === null ? null : { facet: 'type', value: spelled, words };
  };
  return {
    ...scalar,
    decode,
    rules: (field) => limitRules(field, domain),
    edges: (field) => [
      ...limitEdges(
        field,
        (value: Value, to) => {
          const next = step(String(value), to);
          return next === null ? null : own(field, next);
        },
        [edge(field, ends[0], 'the first there is'), edge(field, ends[1], 'the last there is')],
      ),
      ...turns.flatMap(([value, words]) => {
        const turn = edge(field, value, words);
        const { min, max } = field.facets;
        const isWithin = (of: string) =>
          !(typeof min === 'string' && of < min) && !(typeof max === 'string' && of > max);
        return turn !== null && isWithin(String(turn.value)) ? [turn] : [];
      }),
    ],
  };
}
