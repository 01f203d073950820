import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { caseSetFor, casesFor, selected } from '../../src/core/cases/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { decide } from '../../src/core/meaning/index.js';
import { problemsOf } from '../../src/core/messages/index.js';
import type { Case, Row } from '../../src/core/model/index.js';
import { formText, ledgerOf } from '../../src/core/targets/index.js';
import { date, integer, list, reference, ruleset, text, unique } from '../../src/index.js';
import { type ExistingKeys, httpLayer, pageLayer } from '../../src/layers/index.js';
import { openBrowser } from '../fixtures/browser.js';
import { temporaryFolder } from '../fixtures/project.js';
import { type RecordServer, recordServer } from '../fixtures/record-server.js';
import { modelIn } from '../fixtures/schema.js';

const ranger = ruleset('ranger', { key: 'badge', fields: { badge: text({ pattern: /[A-Z][0-9]{3}/ }), name: text() } });
const patrolOf = (most: number) =>
  ruleset('patrol', {
    fields: {
      leader: reference(ranger),
      day: date({ min: '2026-01-01' }),
      hours: integer({ min: 1, max: most }),
      others: list(reference(ranger), { maxItems: 2 }),
    },
    rules: (it) => ({ onceADay: unique(it.leader, it.day) }),
  });
const schema = schemaOf([ranger, patrolOf(12)]);
const model = modelIn(schema, 'patrol');
const cases = casesFor(model, schema);
const badges = ['R100', 'R200', 'R300'];

/** An interface that takes patrols of rangers whom it has, and no rangers; of up to so many hours. */
function patrolServer(most: number): Promise<RecordServer> {
  const own = modelIn(schemaOf([ranger, patrolOf(most)]), 'patrol');
  return recordServer((input, stored) => {
    const rows = { ranger: badges.map((badge) => ({ badge, name: 'x' })), patrol: stored as readonly Row[] };
    return decide(own, input, 'json', { store: (name) => rows[name as keyof typeof rows] });
  });
}

describe('an interface that shows records which cases refer to, and takes none', () => {
  let running: RecordServer;
  const probed = async (existing?: ExistingKeys) => {
    const { url } = running;
    const records = { patrol: { create: url, record: `${url}/{id}` } };
    const layers = { interface: httpLayer({ records, ...(existing === undefined ? {} : { existing }) }) };
    return summarise(
      await askAll(cases, layers, { schema, folder: '.', output: '.' }),
      layers,
      schema,
      ledgerOf(schema),
    );
  };
  before(async () => {
    running = await patrolServer(12);
  });
  after(() => running.close());

  test('without their keys, cases that need such a record do not apply', async () => {
    const { answers } = await probed();
    assert.ok(answers < cases.length / 10, `${answers} answers`);
  });

  test('with their keys, cases refer to them: nothing is reported, and nothing remains', async () => {
    const { mismatches, answers } = await probed({ ranger: badges });
    assert.deepEqual(mismatches, []);
    assert.ok(answers > 100, `${answers} answers`);
    assert.equal(running.records.size, 0);
  });

  test('with one key, cases that need two records do not apply', async () => {
    const { mismatches, answers } = await probed({ ranger: ['R100'] });
    assert.deepEqual(mismatches, []);
    assert.ok(answers > 20, `${answers} answers`);
  });

  test('a mistake of the interface is reported at its rule', async () => {
    await running.close();
    running = await patrolServer(13);
    const { mismatches } = await probed({ ranger: badges });
    assert.deepEqual([...new Set(mismatches.map(({ rule }) => rule))], ['patrol.hours.max']);
  });

  for (const [what, existing, message] of [
    ['a ruleset that is not declared', { rangers: ['R100'] }, /there is no ruleset rangers/],
    ['a ruleset without a key', { patrol: [1] }, /patrol has no key/],
    ['no keys', { ranger: [] }, /no key of ranger is given/],
    ['what is no key', { ranger: [7] }, /7 is no key of ranger/],
  ] as const)
    test(`${what} is refused`, async () => {
      const error = await probed(existing as ExistingKeys).catch((thrown: unknown) => thrown);
      const [problem] = problemsOf(error) ?? [];
      assert.equal(problem?.code, 'layer_unfit');
      assert.match(problem.message, message);
    });
});

test('a page that offers records: cases choose among them', async () => {
  // Installs Chromium where that is allowed, or says what was tried.
  await (await openBrowser()).close();
  const options = { ranger: badges.map((badge) => [badge, badge] as const) };
  const form = formText(model, { options }).replaceAll(' data-refers-to="ranger"', '');
  const { folder, remove } = temporaryFolder({ 'new.html': `<!doctype html><meta charset="utf-8">${form}` });
  const fits = ({ wire, does }: Case) => wire === 'form' && does === 'insert';
  const typed = selected([caseSetFor(model, schema)], { fits, budget: 24 }).cases;
  const probed = async (existing?: ExistingKeys) => {
    const own = existing === undefined ? {} : { existing };
    const layers = { page: pageLayer({ pages: { patrol: 'new.html' }, script: false, compiled: true, ...own }) };
    return summarise(await askAll(typed, layers, { schema, folder, output: '.' }), layers, schema, ledgerOf(schema));
  };
  const [without, within] = [await probed(), await probed({ ranger: badges })];
  remove();
  assert.deepEqual(within.mismatches, []);
  assert.ok(within.answers > without.answers, `${without.answers} answers without, ${within.answers} with their keys`);
  assert.ok(within.answers > typed.length / 3, `${within.answers} of ${typed.length}`);
});
