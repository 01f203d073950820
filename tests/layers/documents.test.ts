import assert from 'node:assert/strict';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { after, before, describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { type Schema, schemaOf } from '../../src/core/declare/index.js';
import { problemsOf } from '../../src/core/messages/index.js';
import { compileSchema } from '../../src/core/targets/index.js';
import { integer, list, record, ruleset, text } from '../../src/index.js';
import { documentLayer } from '../../src/layers/index.js';
import { runIn } from '../fixtures/command-line.js';
import { temporaryFolder } from '../fixtures/project.js';
import { randomFrom } from '../fixtures/random.js';
import { likely } from '../fixtures/random-records.js';
import { rulesetOf, rulesetSource } from '../fixtures/random-rulesets.js';
import { soak } from '../fixtures/records.js';
import { studio } from '../fixtures/schema.js';

/** So many random rulesets are tried; all of them have cases at each edge. */
const RULESETS = soak ? 40 : 4;

const referredTo = [
  ruleset('kiln', { key: 'code', fields: { code: text({ pattern: /K[0-9]{2}/ }) } }),
  ruleset('rack', { key: 'code', fields: { code: integer({ max: 40 }) } }),
];

/** Writes the schemas that are made, gives their collection every case, and tells who disagrees. */
async function probed(schema: Schema, asked: Schema) {
  const { files, ledger } = compileSchema(schema, ['json-schema']);
  const { folder, remove } = temporaryFolder(Object.fromEntries(files.map(({ path, text: made }) => [path, made])));
  const layers = { documents: documentLayer() };
  const cases = asked.flatMap((model) => casesFor(model, schema));
  try {
    const answered = await askAll(cases, layers, { schema, folder, output: folder });
    return { ledger, ...summarise(answered, layers, asked, ledger) };
  } finally {
    remove();
  }
}

describe('documents behind a JSON Schema', () => {
  test('those of the studio are taken and refused as its rules say, as far as the ledger claims', async () => {
    const { mismatches, answers, ledger } = await probed(studio, studio);
    assert.deepEqual(mismatches, []);
    assert.ok(answers > 2_000, `${answers} answers`);
    const absent = ledger.filter(({ fidelity }) => fidelity.is === 'absent').map(({ constraint }) => constraint);
    const said = absent.filter((id) => !/\.(?:limits|unique|reference)$|TakenOnce$|oneFiringPerDay$/.test(id));
    assert.deepEqual(said, ['potter.memberSince.min', 'firing.collectAfterLoading'], 'all else is said by keywords');
  });

  test('rules about the entries of a list within a record look where the list is', async () => {
    const tray = ruleset('tray', {
      key: 'code',
      fields: { code: text({ maxLength: 4 }), foot: record({ marks: list(integer({ max: 9 }), { maxItems: 3 }) }) },
      rules: (it) => ({
        oneIsHigh: it.foot.marks.some((mark) => mark.isMoreThan(3)),
        noneIsLow: it.foot.marks.each((mark) => mark.isAtLeast(1)),
      }),
    });
    const schema = schemaOf([tray]);
    const { mismatches, ledger } = await probed(schema, schema);
    assert.deepEqual(mismatches, []);
    for (const rule of ['oneIsHigh', 'noneIsLow'])
      assert.equal(ledger.find(({ constraint }) => constraint === `tray.${rule}`)?.fidelity.is, 'exact', rule);
  });

  test(`those of ${RULESETS} random rulesets, too`, async () => {
    let [found, answers] = [0, 0];
    for (let seed = 0; found < RULESETS; seed += 1) {
      const schema = schemaOf([rulesetOf(likely(rulesetSource(randomFrom(seed)))), ...referredTo]);
      const asked = schema.filter((model) => model.ruleset === 'random');
      const result = await probed(schema, asked).catch((error: unknown) => {
        if (problemsOf(error)?.some(({ code }) => code === 'no_base') !== true) throw error;
        return null;
      });
      if (result === null) continue;
      found += 1;
      answers += result.answers;
      assert.deepEqual(result.mismatches, [], `seed ${seed}`);
    }
    assert.ok(answers > 500 * RULESETS, `${answers} answers`);
  });
});

describe('a collection in this process', () => {
  const pot = ruleset('pot', { key: 'code', fields: { code: text({ maxLength: 4 }), height: integer({ max: 9 }) } });
  const schema = schemaOf([pot]);
  const cases = schema.flatMap((model) => casesFor(model, schema));
  const guarded = async (validator: object) => {
    const { folder, remove } = temporaryFolder({ 'pot.json': JSON.stringify(validator) });
    const layers = { documents: documentLayer({ schemas: { pot: 'pot.json' } }) };
    const { ledger } = compileSchema(schema, ['json-schema']);
    try {
      return summarise(await askAll(cases, layers, { schema, folder, output: folder }), layers, schema, ledger)
        .mismatches;
    } finally {
      remove();
    }
  };
  const shape = { type: 'object', required: ['code', 'height'], additionalProperties: false };
  const code = {
    type: 'string',
    pattern: '^[^\\u0000\\uFFFD\\p{Cs}\\n\\r]+$',
    maxLength: 4,
    not: { pattern: '^\\s|\\s$|^\\uFEFF|\\uFEFF$' },
  };

  test('a validator by hand without a mistake agrees', async () => {
    const height = { type: 'integer', maximum: 9, minimum: Number.MIN_SAFE_INTEGER };
    assert.deepEqual(await guarded({ ...shape, properties: { code, height } }), []);
  });

  test('what its validator lacks is found', async () => {
    const found = await guarded({ ...shape, properties: { code, height: { type: 'integer', maximum: 10 } } });
    assert.ok(found.some(({ rule, kind }) => rule === 'pot.height.max' && kind === 'verdict'));
  });

  test('a keyword that it does not evaluate is told, not passed over', async () => {
    const [one] = await guarded({ ...shape, properties: { code, height: { dependentRequired: {} } } });
    assert.equal(one?.kind, 'breakdown');
    assert.match(one?.reason ?? '', /the keyword dependentRequired is not evaluated/);
  });

  test('a schema that is not there, or is no JSON, is told with its place', async () => {
    const { folder, remove } = temporaryFolder({ 'pot.json': '{' });
    const ask = (schemas?: { pot: string }) => {
      const layers = { documents: documentLayer(schemas === undefined ? {} : { schemas }) };
      return askAll(cases, layers, { schema, folder, output: folder });
    };
    const code = (expected: string) => (error: unknown) => problemsOf(error)?.[0]?.code === expected;
    await assert.rejects(ask(), code('not_compiled'));
    await assert.rejects(ask({ pot: 'nowhere.json' }), code('file_missing'));
    await assert.rejects(ask({ pot: 'pot.json' }), code('layer_unreachable'));
    remove();
  });
});

describe('schemas on the command line', () => {
  let made: ReturnType<typeof temporaryFolder>;
  before(() => {
    made = temporaryFolder({
      'echo-rule.config.ts': `
        import { settings } from 'echo-rule/config';
        import { documentLayer } from 'echo-rule/layers';
        export default settings({
          rules: ['${process.cwd()}/examples/kiln-bookings/rules/*.rules.ts'],
          output: 'echo', targets: ['javascript', 'json-schema'], layers: { documents: documentLayer() },
        });`,
    });
  });
  after(() => made.remove());
  const echo = (...words: readonly string[]) => runIn(made.folder, join(made.folder, 'echo-rule.config.ts'), words);

  test('compile makes them where they are named, with where they come from', async () => {
    const { code, out } = await echo('compile');
    assert.equal(code, 0, out);
    const text = readFileSync(join(made.folder, 'echo/json-schema/firing.schema.json'), 'utf8');
    const schema = JSON.parse(text) as { readonly [keyword: string]: unknown };
    assert.equal(schema.$schema, 'https://json-schema.org/draft/2020-12/schema');
    assert.match(String(schema.$comment), /^Made by echo-rule from .*firing\.rules\.ts\./);
    assert.equal((await echo('compile')).code, 0, 'a second time changes nothing');
    assert.equal((await echo('probe', '--layer', 'documents')).code, 0);
  });

  test('one that was edited by hand is not written over unasked', async () => {
    const file = join(made.folder, 'echo/json-schema/kiln.schema.json');
    const text = readFileSync(file, 'utf8');
    writeFileSync(file, text.replace('"Kiln"', '"Oven"'));
    const { code, notes } = await echo('compile');
    assert.equal(code, 1);
    assert.match(notes, /kiln\.schema\.json/);
    writeFileSync(file, text);
  });
});
