import type { Clock, Model } from '../model/index.js';

/** The clock that every case is judged by, in the ruleset's zone. */
export function caseClock({ zone }: Pick<Model, 'zone'>): Clock {
  return { instant: '2026-03-02T09:00:00Z', zone };
}
