import type { Domain, Field, Value, Wire } from '../model/index.js';
import { type Seconds, secondsBetween } from './calendar.js';
import type { Decoded, Edge, Kind } from './kind.js';
import { refused } from './kind.js';
import { limitEdges, limitRules } from './limits.js';
import { scalar } from './scalar.js';

/** How many digits of a second's fraction a field has. */
export function fractionOf({ facets }: Field): number {
  return typeof facets.fraction === 'number' ? facets.fraction : 0;
}

/** How fine a field's times are: the digits of a second's fraction, or no seconds at all. */
export function secondsOf(field: Field): Seconds {
  return field.facets.seconds === 'none' ? 'none' : fractionOf(field);
}

/** The difference between a time of a field and the next, in seconds: the field's step, a minute, or a second. */
export function stepSeconds(field: Field): number {
  const { step } = field.facets;
  if (typeof step === 'string') return Number(secondsBetween('00:00:00', step));
  return secondsOf(field) === 'none' ? 60 : 1;
}

/** What the kinds of times have in common: one canonical spelling, which is the only one on the row wire. */
export function momentKind(
  domain: Domain,
  canonical: (text: string, fraction: Seconds, needsSeconds: boolean) => string | null,
  step: (moment: string, seconds: number) => string | null,
  ends: readonly [least: string, greatest: string],
  turns: readonly (readonly [moment: string, words: string])[],
): Omit<typeof scalar, 'rules' | 'edges'> & Pick<Kind, 'decode' | 'rules' | 'edges'> {
  const own = (field: Field, text: string) => canonical(text, secondsOf(field), false);
  const decode = (field: Field, input: unknown, wire: Wire): Decoded => {
    const value = typeof input === 'string' ? canonical(input, secondsOf(field), wire !== 'form') : null;
    return value === null || (wire === 'row' && value !== input) ? refused : { value };
  };
  const edge = (field: Field, value: string, words: string): Edge | null => {
    const spelled = own(field, secondsOf(field) === 'none' ? value.slice(0, 5) : value);
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
          const next = step(String(value), to * stepSeconds(field));
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
