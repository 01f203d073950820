import { type Field, fieldTerm, literalTerm, type Value } from '../model/index.js';
import { addSeconds, canonicalTime, secondsBetween } from './calendar.js';
import type { Edge, FacetRule, Kind } from './kind.js';
import { multipleEdges, usualWithin } from './limits.js';
import { momentKind, secondsOf, stepSeconds } from './moments.js';

const MIDNIGHT = '00:00:00';

const moments = momentKind('time', canonicalTime, addSeconds, [MIDNIGHT, '23:59:59'], [['12:00:00', 'noon']]);

/** A time of day, with seconds unless it says otherwise. */
export const time: Kind = {
  ...moments,
  domain: 'time',
  facets: { min: 'ISO time', max: 'ISO time', fraction: 'fraction digits', seconds: 'no seconds', step: 'time step' },
  grammar: {
    form: "`HH:MM` or `HH:MM:SS`, then a point and at most `fraction` digits; no `24:00`, no 60th second; `HH:MM` alone where `seconds: 'none'`",
    json: "a JSON string `HH:MM:SS`, then a point and at most `fraction` digits; `HH:MM` where `seconds: 'none'`",
    row: "a string `HH:MM:SS`, then a point and exactly `fraction` digits; `HH:MM` where `seconds: 'none'`",
  },
  rules: (field, inner) => [...moments.rules(field, inner), ...stepRules(field)],
  edges: (field, inner) => [...moments.edges(field, inner), ...stepEdges(field)],
  sample(field, seed) {
    const base = usualWithin(field, secondsOf(field) === 'none' ? '09:00' : '09:00:00');
    const value = addSeconds(base, seed * Math.max(60, stepSeconds(field))) ?? base;
    const { max } = field.facets;
    const within = typeof max === 'string' && value > max ? max : value;
    return steppedTime(field, canonicalTime(within, secondsOf(field), false) ?? base);
  },
};

/** The seconds since midnight are what is a multiple of the step. */
function stepRules(field: Field): readonly FacetRule[] {
  const { step } = field.facets;
  if (typeof step !== 'string') return [];
  const midnight = literalTerm(secondsOf(field) === 'none' ? MIDNIGHT.slice(0, 5) : MIDNIGHT, 'time');
  const of = { term: 'seconds', of: [midnight, fieldTerm(field.path)] } as const;
  return [
    { facet: 'step', stage: 'comparison', limit: step, predicate: { op: 'multiple', of, step: stepSeconds(field) } },
  ];
}

/** The multiples of the step beside the limits, and a time that is just none. */
function stepEdges(field: Field): readonly Edge[] {
  const { step, min, max } = field.facets;
  if (typeof step !== 'string') return [];
  const seconds = (limit: Value | undefined) =>
    typeof limit === 'string' ? { limit: secondsBetween(MIDNIGHT, limit) } : {};
  const held = (text: string) => timeAt(field, Number(text));
  const limits = { min: seconds(min).limit, max: seconds(max).limit, step: stepSeconds(field) };
  const facets = Object.fromEntries(
    Object.entries(limits).flatMap(([name, of]) => (of === undefined ? [] : [[name, of]])),
  );
  const unit = secondsOf(field) === 'none' ? 60 : 1;
  const usual = steppedTime(field, usualWithin(field, '12:00'));
  const next = stepSeconds(field) === unit ? null : addSeconds(usual, unit);
  return [
    ...multipleEdges({ facets }, '1', held),
    ...(next === null ? [] : [{ facet: 'step', value: next, words: 'just after a multiple of the step' }]),
  ];
}

/** A time at so many seconds after midnight, as fine as the field's are; null beyond the day. */
function timeAt(field: Field, seconds: number): string | null {
  const time = seconds < 0 ? null : addSeconds(MIDNIGHT, seconds);
  return time === null ? null : spelledFor(field, time);
}

function spelledFor(field: Field, time: string): string | null {
  const seconds = secondsOf(field);
  return canonicalTime(seconds === 'none' ? time.slice(0, 5) : time, seconds, false);
}

/** The last multiple of the field's step that is not after a time, or the first that is not before the field's minimum. */
export function steppedTime(field: Field, time: string): string {
  const { step, min } = field.facets;
  if (typeof step !== 'string') return time;
  const unit = stepSeconds(field);
  const before = Math.floor(Number(secondsBetween(MIDNIGHT, time)) / unit) * unit;
  const first = typeof min === 'string' ? Math.ceil(Number(secondsBetween(MIDNIGHT, min)) / unit) * unit : 0;
  return timeAt(field, Math.max(before, first)) ?? time;
}
