import assert from 'node:assert/strict';
import type { Check } from '../tests/fixtures/echo.js';
import { randomFrom } from '../tests/fixtures/random.js';
import { randomRecord } from '../tests/fixtures/random-records.js';
import { modelIn, studio } from '../tests/fixtures/schema.js';

/** Holds two checks of a firing against each other on random records; throws where they differ. */
export function assertAgree(check: Check, twin: Check, records: number): void {
  const random = randomFrom(7);
  const { fields } = modelIn(studio, 'firing');
  for (let count = 0; count < records; count += 1) {
    const wire = random.pick(['json', 'form'] as const);
    const how = { wire, on: 'server', clock: { instant: '2026-03-02T09:00:00Z' } } as const;
    const manner = random.chance(0.3) ? { ...how, partial: true as const } : how;
    // What came over a wire has no prototype of its own.
    const input = JSON.parse(JSON.stringify(randomRecord(fields, random, wire, random.pick([0, 0.05, 0.3]))));
    assert.deepEqual(twin(input, manner), check(input, manner), JSON.stringify({ input, manner }));
  }
}
