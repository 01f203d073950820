import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import {
  mariadbScratch,
  measureStrength,
  openScratches,
  type Scratch,
  type Strength,
} from '../../src/agreement/strength/index.js';
import { codeMistakes, handlings, rewritings, storings } from '../../src/core/mistakes/index.js';
import { soak } from '../fixtures/records.js';
import { studio } from '../fixtures/schema.js';
import { connectMariadb, scratchDatabase } from '../fixtures/servers.js';

/** At most so many of a hundred mutants may be left undecided. */
const MOST_UNDECIDED = 3;

describe('how strong the cases are', () => {
  let scratches: Scratch[] = [];
  before(async () => {
    const database = await scratchDatabase('mariadb');
    const connection = await connectMariadb(database);
    const embedded = await openScratches(['postgresql', 'sqlite']);
    assert.deepEqual(embedded.leftOut, []);
    const close = async () => {
      await connection.end();
      await database.remove();
    };
    scratches = [...embedded.scratches, mariadbScratch(connection, new URL(database.url).pathname.slice(1), close)];
  });
  after(async () => {
    for (const scratch of scratches) await scratch.close();
  });

  test('there are mistakes of many kinds', () => {
    const coded = Object.values(codeMistakes).flatMap((own) => Object.keys(own));
    const kinds = new Set([...Object.keys(rewritings), ...Object.keys(handlings), ...Object.keys(storings), ...coded]);
    assert.ok(kinds.size >= 80, `${kinds.size} kinds`);
  });

  test('every mistake in a layer of the studio is caught, or proved to be none', async () => {
    const strength = await measureStrength(studio, studio, { scratches, triesProofs: soak });
    console.log(`# ${figures(strength)}`);
    assertStrong(strength);
    assert.equal(strength.layers.length, 6, 'every layer');
    for (const { layer, mutants, killed } of strength.layers) assert.ok(killed > mutants / 2, layer);
  });
});

function figures({ layers, mistakes, cases }: Strength): string {
  const parts = layers.map(
    ({ layer, mutants, killed, equivalent, undecided, survived }) =>
      `${layer} ${mutants} (${killed} caught, ${equivalent} no difference, ${undecided} undecided, ${survived} missed)`,
  );
  return `${cases} cases, mistakes of ${mistakes} kinds: ${parts.join(', ')}`;
}

function assertStrong({ mutants, unsound }: Strength): void {
  const named = (outcome: string) =>
    mutants.filter((one) => one.outcome === outcome).map(({ id, words, why }) => `${id}: ${words} (${why})`);
  assert.deepEqual(unsound, [], 'no layer disagrees without a mistake, and no proof is contradicted');
  assert.deepEqual(named('survived'), []);
  const undecided = named('undecided');
  assert.ok(undecided.length * 100 <= mutants.length * MOST_UNDECIDED, undecided.join('\n'));
}
