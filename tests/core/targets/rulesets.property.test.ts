import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { kinds } from '../../../src/core/kinds/index.js';
import { decide, encode } from '../../../src/core/meaning/index.js';
import { allFields, type Row } from '../../../src/core/model/index.js';
import { operators } from '../../../src/core/operators/index.js';
import { difference, loadedCheck, type Manner, shrunk } from '../../fixtures/echo.js';
import { type Random, randomFrom } from '../../fixtures/random.js';
import { likely, randomRecord } from '../../fixtures/random-records.js';
import { rulesetOf, rulesetSource, sourceText } from '../../fixtures/random-rulesets.js';
import { soak } from '../../fixtures/records.js';

const RULESETS = soak ? 100 : 30;
const RECORDS = soak ? 2_000 : 60;
const clock = { instant: '2026-03-02T20:00:00Z' };

/** One record after another, some of them partial updates of one that was accepted before. */
function mannerOf(random: Random, names: readonly string[], stored: Row | null): Manner {
  const how = {
    wire: random.pick(['json', 'form'] as const),
    on: random.pick(['server', 'server', 'client'] as const),
    clock,
  };
  if (!random.chance(0.3)) return how;
  return {
    ...how,
    partial: true,
    ...(stored !== null && random.chance(0.6) ? { existing: stored } : {}),
    ...(random.chance(0.3) ? { shown: random.some(names, 3) } : {}),
  };
}

describe(`${RULESETS} random rulesets, ${RECORDS} random records each`, () => {
  const seen = { kinds: new Set<string>(), operators: new Set<string>(), accepted: 0, told: 0 };

  test('the compiled module says what the meaning says, and what is encoded is decoded the same', async () => {
    for (let seed = 0; seed < RULESETS; seed += 1) {
      const random = randomFrom(seed);
      const source = likely(rulesetSource(random));
      const ruleset = rulesetOf(source);
      const { model } = ruleset;
      for (const { kind } of allFields(model)) seen.kinds.add(kind);
      for (const [, name] of JSON.stringify(model.constraints).matchAll(/"op":"(\w+)"/g))
        seen.operators.add(name ?? '');
      const check = await loadedCheck(ruleset);
      let stored: Row | null = null;
      for (let count = 0; count < RECORDS; count += 1) {
        const how = mannerOf(random, Object.keys(model.fields), stored);
        const input = randomRecord(model.fields, random, how.wire, random.pick([0, 0, 0.05, 0.3]));
        if (difference(ruleset, check, input, how) !== null) assert.fail(await shrunk(source, input, how));
        const meant = { clock, enforcers: [how.on] };
        const verdict = how.partial === undefined ? decide(model, input, how.wire, meant) : null;
        if (verdict === null || 'refused' in verdict) {
          seen.told += 1;
          continue;
        }
        seen.accepted += 1;
        if (how.on === 'server') stored = verdict.accepted;
        const back = decide(model, encode(model, verdict.accepted, how.wire), how.wire, meant);
        assert.deepEqual(back, verdict, `encoded and decoded on the ${how.wire} wire: ${sourceText(source)}`);
      }
    }
  });

  test('every kind and every operator was among them, and both verdicts', () => {
    assert.deepEqual(
      Object.keys(kinds).filter((kind) => !seen.kinds.has(kind)),
      [],
    );
    assert.deepEqual(
      Object.keys(operators).filter((operator) => !seen.operators.has(operator)),
      [],
    );
    assert.ok(seen.accepted > (RULESETS * RECORDS) / 100, `${seen.accepted} were accepted`);
    assert.ok(seen.told > seen.accepted, `${seen.told} were refused or partial`);
  });
});
