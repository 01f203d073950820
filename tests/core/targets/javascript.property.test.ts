import assert from 'node:assert/strict';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { after, before, describe, test } from 'node:test';
import { pathToFileURL } from 'node:url';
import fc from 'fast-check';
import { decide, encode } from '../../../src/core/meaning/index.js';
import { javascript } from '../../../src/core/targets/javascript/index.js';
import { recordsOf, soak } from '../../fixtures/records.js';
import { everyKind, studio } from '../../fixtures/schema.js';

const clock = { instant: '2026-03-02T09:00:00Z' };
type Check = (
  input: unknown,
  how: { wire: 'form' | 'json'; clock: typeof clock },
) => { ok: boolean; value?: unknown; violations?: unknown };

const RECORDS = soak ? 100_000 : 10_000;

describe('the compiled module answers as the meaning does', () => {
  const folder = mkdtempSync(join(tmpdir(), 'echo-rule-modules-'));
  const checks = new Map<string, Check>();
  before(async () => {
    for (const { path, text } of [...javascript.emit(studio), ...javascript.emit(everyKind)]) {
      if (!path.endsWith('.js')) continue;
      assert.doesNotMatch(text, /\b(?:import|require|eval|Function)\b *\(|^import /m, 'no imports, no eval');
      const file = join(folder, `${path.split('/').at(-1)?.replace(/\.js$/, '.mjs')}`);
      writeFileSync(file, text);
      checks.set(path, ((await import(pathToFileURL(file).href)) as { check: Check }).check);
    }
  });
  after(() => rmSync(folder, { recursive: true }));

  const schemas = [studio, everyKind];
  const kinds = schemas.flatMap((schema) => schema.map((model) => ({ schema, model })));
  for (const { schema, model } of kinds) {
    for (const wire of ['form', 'json'] as const) {
      const runs = Math.ceil(RECORDS / kinds.length / 2);
      test(`${model.ruleset} on the ${wire} wire, ${runs} records`, () => {
        const check = checks.get(`javascript/${model.ruleset}.js`);
        assert.ok(check, 'the module is there');
        let accepted = 0;
        fc.assert(
          fc.property(recordsOf(model, schema, wire), (input) => {
            const verdict = decide(model, input, wire, { clock });
            const result = check(input, { wire, clock });
            if ('accepted' in verdict) {
              accepted += 1;
              assert.deepEqual(result, { ok: true, value: verdict.accepted });
              assert.deepEqual(
                decide(model, encode(model, verdict.accepted, wire), wire, { clock }),
                verdict,
                'encode, then decode',
              );
            } else assert.deepEqual(result, { ok: false, violations: verdict.refused });
          }),
          { numRuns: runs, seed: 20260302 },
        );
        assert.ok(accepted > runs / 100, `only ${accepted} of ${runs} records were valid`);
        assert.ok(accepted < runs, 'no record was refused');
      });
    }
  }
});
