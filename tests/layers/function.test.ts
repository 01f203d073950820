import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import { type FunctionOptions, functionLayer } from '../../src/layers/index.js';
import { temporaryFolder } from '../fixtures/project.js';
import { modelIn, studio } from '../fixtures/schema.js';

const schema = studio.filter(({ ruleset }) => ruleset === 'kiln');

/** What a function by hand gets wrong: each kind once, whatever it does. */
async function kindsOf(source: string, options: FunctionOptions = {}): Promise<readonly string[]> {
  const { folder, remove } = temporaryFolder({ 'hand.ts': source });
  const layers = { hand: functionLayer({ modules: { kiln: 'hand.ts' }, ...options }) };
  const surroundings = { schema, folder, output: folder };
  const answered = await askAll(casesFor(modelIn(schema, 'kiln'), schema), layers, surroundings);
  remove();
  const { mismatches } = summarise(answered, layers, schema, ledgerOf(schema));
  return [...new Set(mismatches.map(({ kind }) => kind))].sort();
}

describe('functions by hand', () => {
  test('one that says yes and gives nothing back stores nothing', async () => {
    assert.deepEqual(await kindsOf('export const check = () => ({ ok: true });'), ['altered', 'verdict']);
  });

  test('one that throws breaks down, and so does one that gives no result or is not there', async () => {
    assert.deepEqual(await kindsOf("export const check = () => { throw new Error('down'); };"), ['breakdown']);
    assert.deepEqual(await kindsOf('export const check = async () => undefined;'), ['breakdown']);
    assert.deepEqual(await kindsOf('export const other = 1;'), ['breakdown']);
  });

  test('a store that fails is the case’s breakdown, and ends nothing', async () => {
    const store = {
      clear: () => {},
      put: () => {},
      rows: () => {
        throw new Error('no store');
      },
    };
    assert.deepEqual(await kindsOf('export const check = () => ({ ok: true, value: {} });', { store }), ['breakdown']);
  });

  test('a refusal that leaves a row behind is told', async () => {
    const source = `export const kept = [];
      export const check = (input) => { kept.push(input); return { ok: false, violations: [] }; };`;
    const store = {
      clear: (module: { readonly [name: string]: unknown }) => void (module.kept as unknown[]).splice(0),
      put: () => {},
      rows: (module: { readonly [name: string]: unknown }) => module.kept as unknown[],
    };
    assert.deepEqual(await kindsOf(source, { store }), ['residue']);
  });

  test('a rule that nobody declared ends the run: a mapping that leads nowhere makes every refusal a difference', async () => {
    const violations = "[{ pointer: '/code', rule: 'kiln.codes.required', message: '' }]";
    await assert.rejects(
      kindsOf(`export const check = () => ({ ok: false, violations: ${violations} });`),
      /it names the rule kiln\.codes\.required, which kiln does not have.*\[layer_unfit\]/s,
    );
  });

  test('fields that it calls otherwise are translated both ways, and its names must be about fields', async () => {
    const source = `export const check = (input) => {
      const { oven_code, name, hottest_c, ...others } = input ?? {};
      if (Object.keys(others).length > 0 || typeof oven_code !== 'string')
        return { ok: false, violations: [{ pointer: '/oven_code', message: '' }] };
      return { ok: true, value: { oven_code, name, hottest_c } };
    };`;
    const answers = async (names: FunctionOptions['names']) => {
      const { folder, remove } = temporaryFolder({ 'hand.ts': source });
      const layers = {
        hand: functionLayer({ modules: { kiln: 'hand.ts' }, wires: ['json'], ...(names && { names }) }),
      };
      const [about] = casesFor(modelIn(schema, 'kiln'), schema).filter(
        ({ expected, wire, does }) => 'accepted' in expected && wire === 'json' && does === 'insert',
      );
      const surroundings = { schema, folder, output: folder };
      const answered = await askAll(about === undefined ? [] : [about], layers, surroundings).finally(remove);
      return { answer: answered[0]?.answer, expected: about?.expected };
    };
    const { answer, expected } = await answers({ kiln: { code: 'oven_code', hottest: 'hottest_c' } });
    assert.deepEqual(answer, expected);
    assert.deepEqual((await answers({ kiln: { hottest: 'hottest_c' } })).answer, {
      refused: [{ pointer: '/oven_code', rule: null, message: '' }],
    });
    await assert.rejects(answers({ kiln: { heat: 'heat_c' } }), /names: kiln has no field heat/);
    await assert.rejects(answers({ oven: {} }), /names: there is no ruleset oven/);
  });
});
