import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import {
  byLayer,
  mariadbScratch,
  measureStrength,
  openScratches,
  type Scratch,
  type Strength,
} from '../../src/agreement/strength/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { problemsOf } from '../../src/core/messages/index.js';
import { codeMistakes, handlings, rewritings, storings } from '../../src/core/mistakes/index.js';
import { integer, ruleset, text } from '../../src/index.js';
import { randomFrom } from '../fixtures/random.js';
import { likely } from '../fixtures/random-records.js';
import { rulesetOf, rulesetSource, sourceText } from '../fixtures/random-rulesets.js';
import { soak } from '../fixtures/records.js';
import { studio } from '../fixtures/schema.js';
import { connectMariadb, scratchDatabase } from '../fixtures/servers.js';

/** At most so many of a hundred mutants may be left undecided. */
const MOST_UNDECIDED = 3;

/** So many mistakes are planted in each layer of a ruleset of the studio, spread over all that there are; in the long form, all. */
const MOST_PLANTED = soak ? Number.POSITIVE_INFINITY : 35;
const RULESETS = 30;
const SOAKED = 'takes half an hour: npm run soak';
/** What random references lead to. */
const referredTo = [
  ruleset('kiln', { key: 'code', fields: { code: text({ pattern: /K[0-9]{2}/ }) } }),
  ruleset('rack', { key: 'code', fields: { code: integer({ max: 40 }) } }),
];

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

  test('every mistake that is planted in a layer of the studio is caught, or proved to be none', async () => {
    const strength = await measureStrength(studio, studio, { scratches, triesProofs: soak, most: MOST_PLANTED });
    console.log(`# ${figures(strength)}`);
    assertStrong(strength);
    assert.equal(strength.layers.length, 6, 'every layer');
    for (const { layer, mutants, killed } of strength.layers) assert.ok(killed > mutants / 2, layer);
  });
});

describe('how strong the cases of random rulesets are', { skip: soak ? false : SOAKED }, () => {
  const opened: Scratch[] = [];
  before(async () => {
    const database = await scratchDatabase('mariadb');
    const connection = await connectMariadb(database);
    const close = async () => {
      await connection.end();
      await database.remove();
    };
    const embedded = await openScratches(['postgresql', 'sqlite']);
    opened.push(...embedded.scratches, mariadbScratch(connection, new URL(database.url).pathname.slice(1), close));
  });
  after(async () => {
    for (const scratch of opened) await scratch.close();
  });

  test(`${RULESETS} rulesets, each in the module, a store, a form and one engine in turn`, async () => {
    const found: Strength[] = [];
    for (let seed = 0; found.length < RULESETS; seed += 1) {
      const source = likely(rulesetSource(randomFrom(seed)));
      const schema = schemaOf([rulesetOf(source), ...referredTo]);
      const asked = schema.filter(({ ruleset }) => ruleset === 'random');
      const scratches = opened.filter((_, at) => at === found.length % opened.length);
      try {
        const strength = await measureStrength(asked, schema, { scratches });
        console.log(`# ${seed}: ${figures(strength)}`);
        found.push(strength);
      } catch (error) {
        // Rules that contradict each other, which review tells: there is no valid record to start from.
        if (problemsOf(error)?.some(({ code }) => code === 'no_base') !== true) throw error;
        console.log(`# ${seed}: no valid record\n${sourceText(source)}`);
      }
    }
    const mutants = found.flatMap((one) => one.mutants);
    const unsound = found.flatMap((one) => one.unsound);
    console.log(
      `# ${figures({ layers: byLayer(mutants), mistakes: new Set(mutants.map(({ mistake }) => mistake)).size, cases: found.reduce((count, one) => count + one.cases, 0) })}`,
    );
    assertStrong({ mutants, unsound });
  });
});

function figures({ layers, mistakes, cases }: Pick<Strength, 'layers' | 'mistakes' | 'cases'>): string {
  const parts = layers.map(
    ({ layer, mutants, killed, equivalent, undecided, survived }) =>
      `${layer} ${mutants} (${killed} caught, ${equivalent} no difference, ${undecided} undecided, ${survived} missed)`,
  );
  return `${cases} cases, mistakes of ${mistakes} kinds: ${parts.join(', ')}`;
}

function assertStrong({ mutants, unsound }: Pick<Strength, 'mutants' | 'unsound'>): void {
  const named = (outcome: string) =>
    mutants.filter((one) => one.outcome === outcome).map(({ id, words, why }) => `${id}: ${words} (${why})`);
  assert.deepEqual(unsound, [], 'no layer disagrees without a mistake, and no proof is contradicted');
  assert.deepEqual(named('survived'), []);
  const undecided = named('undecided');
  assert.ok(undecided.length * 100 <= mutants.length * MOST_UNDECIDED, undecided.join('\n'));
}
