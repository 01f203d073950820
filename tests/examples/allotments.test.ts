import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { askAll, probeLayers, summarise } from '../../src/agreement/index.js';
import { caseSetsFor } from '../../src/core/cases/index.js';
import { allTargetNames, ledgerOf } from '../../src/core/targets/index.js';
import type { Layer } from '../../src/layers/index.js';
import { type Application, application, schema, tolerated } from '../fixtures/allotments/application.js';
import { planted } from '../fixtures/allotments/mistakes.js';

const waterings = schema.filter(({ ruleset }) => ruleset === 'watering');
const ledger = ledgerOf(schema, allTargetNames);
const casesFrom = (start: 'optional absent' | 'optional given') =>
  caseSetsFor(waterings, schema, new Map(), start).flatMap(({ cases }) => cases);

type Tolerances = Parameters<typeof application>[1];

const none: Tolerances = { server: [], form: [], postgresql: [], mariadb: [], sqlite: [] };

/** What a run with the application gives; it is closed whatever happens. */
async function running<T>(
  hasMistakes: boolean,
  tolerates: Tolerances,
  run: (of: Application) => Promise<T>,
): Promise<T> {
  const found = await application(hasMistakes, tolerates);
  try {
    return await run(found);
  } finally {
    await found.close();
  }
}

const line = ({ layer, rule, kind }: { readonly layer: string; readonly rule: string; readonly kind: string }) =>
  `${layer} ${rule} ${kind}`;

/** A server, a form and tables in three databases that know nothing of Echo Rule, of another trade. */
describe('an application by hand', () => {
  test('without mistakes nothing is reported but what five tolerances explain, which are suggested', async () => {
    const [strict, lenient] = await running(false, none, async ({ layers, folder }) => {
      const answered = await askAll(casesFrom('optional absent'), layers, { schema, folder, output: folder });
      const tolerant = Object.entries(layers).map(([name, layer]): readonly [string, Layer] => [
        name,
        { ...layer, tolerates: tolerated[name as keyof typeof tolerated] },
      ]);
      return [layers, Object.fromEntries(tolerant)].map((judged) => summarise(answered, judged, waterings, ledger));
    });
    assert.ok(strict !== undefined && lenient !== undefined, 'both are judged');
    const explained = strict.suggested.reduce((sum, { disagreements }) => sum + disagreements, 0);
    assert.equal(explained, strict.mismatches.length, 'every disagreement is explained by a suggested tolerance');
    const wanted = Object.entries(tolerated).flatMap(([layer, own]) => own.map((one) => `${layer} ${one}`));
    assert.deepEqual(strict.suggested.map(({ layer, tolerance }) => `${layer} ${tolerance}`).sort(), wanted.sort());
    assert.equal(new Set(Object.values(tolerated).flat()).size, 5);

    assert.deepEqual(lenient.mismatches.map(line), []);
    assert.deepEqual(lenient.suggested, []);
    assert.ok(lenient.tolerated.length > 0, 'tolerated differences are counted');
  });

  test('each planted mistake is one line, with a likely mistake that is true or none, and there is no other line', async () => {
    const { mismatches } = await running(true, tolerated, ({ layers, folder }) => {
      const surroundings = { schema, folder, output: folder };
      const others = () => casesFrom('optional given');
      const cases = casesFrom('optional absent');
      return probeLayers(cases, layers, surroundings, waterings, ledger, () => {}, null, [], others);
    });
    assert.deepEqual(mismatches.map(line).sort(), planted.map(line).sort());
    const untrue = planted.flatMap((one) => {
      const { guess = null } = mismatches.find((other) => line(other) === line(one)) ?? {};
      return guess !== null && one.likely?.test(guess) !== true
        ? [`${line(one)}: ${one.what}; reported: ${guess}`]
        : [];
    });
    assert.deepEqual(untrue, []);
    const named = mismatches.filter(({ guess }) => guess !== null).length;
    console.log(`# ${planted.length} planted mistakes in 5 layers: all reported, ${named} with a likely mistake`);
    assert.ok(planted.length >= 60 && named >= planted.length / 2, `${named} of ${planted.length} are named`);
  });
});
