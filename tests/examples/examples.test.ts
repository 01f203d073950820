import assert from 'node:assert/strict';
import { cpSync, readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { describe, test } from 'node:test';
import type { Mismatch, ProbeResult } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { decide } from '../../src/core/meaning/index.js';
import type { Finding } from '../../src/core/review/index.js';
import { runIn } from '../fixtures/command-line.js';
import { temporaryFolder } from '../fixtures/project.js';
import { modelIn, studio } from '../fixtures/schema.js';
import { connectMariadb, scratchDatabase } from '../fixtures/servers.js';

function echo(example: string, ...words: readonly string[]) {
  return runIn(process.cwd(), resolve('examples', example, 'echo-rule.config.ts'), words);
}

/** The mistakes that examples/layers-by-hand/README.md lists, one line each: layer, rule, kind. */
function listedMistakes(): readonly string[] {
  const text = readFileSync('examples/layers-by-hand/README.md', 'utf8');
  const rows = [
    ...text.matchAll(/^\| (server|form|postgresql|mariadb|sqlite) +\| `(firing\.[A-Za-z.[\]]+)` +\| (\w+) +\|/gm),
  ];
  return rows.map(([, layer, rule, kind]) => `${layer} ${rule} ${kind}`).sort();
}

const line = ({ layer, rule, kind }: Mismatch) => `${layer} ${rule} ${kind}`;

describe('the examples', () => {
  test('kiln-bookings: what is committed is what compile makes', async () => {
    const { folder, remove } = temporaryFolder();
    cpSync('examples/kiln-bookings', folder, { recursive: true });
    const { code, out } = await echo(folder, 'compile', '--format', 'json');
    remove();
    assert.equal(code, 0);
    const { written, stale } = JSON.parse(out) as { written: string[]; stale: string[] };
    assert.deepEqual({ written, stale }, { written: [], stale: [] }, 'compile the example and commit what it makes');
  });

  test('kiln-bookings: every compiled layer agrees, and every rule is tested wherever it is held', async () => {
    const { code, out } = await echo('kiln-bookings', 'probe', '--format', 'json');
    const result = JSON.parse(out) as ProbeResult;
    assert.deepEqual(result.mismatches.map(line), []);
    assert.equal(code, 0);
    const said = `${result.cases.toLocaleString('en')} generated cases`;
    assert.ok(readFileSync('README.md', 'utf8').includes(said), `the README says: ${said}`);
    // A one-line control holds no line end, a list no other code or key, a box no other word: on a form these can't arise.
    const impossible = /\.lines form$|\.(?:glaze|vented)\.type form$|\.(?:kiln|potter)\.\w+ form$/;
    const untested = result.byRule
      .filter(({ status }) => status === 'untested')
      .map(({ rule, layer }) => `${rule} ${layer}`);
    assert.deepEqual(
      untested.filter((one) => !impossible.test(one)),
      [],
    );
  });

  describe('layers-by-hand', () => {
    /** Probes the layers of a folder, with the tables of MariaDB in a database of their own. */
    async function probed(folder: string) {
      const database = await scratchDatabase('mariadb');
      const connection = await connectMariadb(database);
      await connection.query(readFileSync(join('examples', folder, 'tables.mariadb.sql'), 'utf8'));
      await connection.end();
      process.env.STUDIO_MARIADB = database.url;
      const { code, out } = await echo(folder, 'probe', '--format', 'json');
      delete process.env.STUDIO_MARIADB;
      await database.remove();
      return { code, result: JSON.parse(out) as ProbeResult };
    }

    test('each mistake is one line, and there is no other line', async () => {
      const { code, result } = await probed('layers-by-hand');
      const [found, listed] = [result.mismatches.map(line).sort(), listedMistakes()];
      const recall = listed.filter((one) => found.includes(one)).length / listed.length;
      console.log(`# ${listed.length} mistakes by hand in ${result.layers.length} layers: ${100 * recall} % found`);
      assert.deepEqual(found, listed);
      assert.equal(code, 1);
      const guessed = result.mismatches.filter(({ guess }) => guess !== null);
      console.log(`# the likely mistake is told of ${guessed.length} of them`);
      assert.ok(guessed.length >= 0.9 * listed.length, `${guessed.length} are guessed`);
      const guessOf = (layer: string, rule: string) =>
        result.mismatches.find((one) => one.layer === layer && one.rule === rule)?.guess ?? '';
      assert.match(guessOf('server', 'firing.notes.maxLength'), /^UTF-16 counting/);
      assert.match(guessOf('mariadb', 'firing.celadonFiredHot'), /^comparison tightened/);
      assert.match(guessOf('postgresql', 'firing.title.canonical'), /^only spaces trimmed/);
      assert.match(guessOf('mariadb', 'firing.helpers.maxItems'), /^facet dropped/);
      // Of three mistakes that let the same values in, one stores what the column stores.
      assert.match(guessOf('postgresql', 'firing.fee.scale'), /^fraction rounded/);
      assert.ok(listed.length >= 40, `${listed.length} mistakes`);
      assert.deepEqual([...new Set(result.mismatches.map(({ kind }) => kind))].sort(), [
        'altered',
        'blame',
        'breakdown',
        'residue',
        'verdict',
      ]);
      const past = result.mismatches.find((one) => one.layer === 'server' && one.rule === 'firing.peak.max');
      assert.deepEqual({ ...(past?.input as object), peak: 1320 }, past?.input, 'the shortest input is just inside');
    });

    test('without the mistakes all five agree: no false alarm', async () => {
      const { code, result } = await probed('layers-by-hand/mended');
      console.log(
        `# ${result.answers} answers of ${result.layers.length} layers without a mistake: ${result.mismatches.length} false alarms`,
      );
      assert.deepEqual(result.mismatches.map(line), []);
      assert.equal(code, 0);
      assert.equal(result.layers.length, 5);
    });
  });

  test('every expected verdict is the meaning of the rules', () => {
    for (const model of studio) {
      for (const { input, wire, before, expected, does, existing } of casesFor(model, studio)) {
        // A deletion sends no record.
        if (does === 'delete') continue;
        const store = (of: string) => before.filter(({ ruleset }) => ruleset === of).map(({ row }) => row);
        assert.deepEqual(decide(model, input, wire, { store, existing, partial: does === 'patch' }), expected);
      }
    }
  });

  test('the sample records are valid, refer to one another, and break no unique rule', () => {
    const rows = new Map<string, object[]>();
    let count = 0;
    for (const name of ['kiln', 'potter', 'firing']) {
      const lines = readFileSync(join('examples/kiln-bookings/records', `${name}.jsonl`), 'utf8')
        .trimEnd()
        .split('\n');
      for (const text of lines) {
        const store = (of: string) => (rows.get(of) ?? []) as never[];
        const verdict = decide(modelIn(studio, name), JSON.parse(text), 'json', { store });
        assert.ok('accepted' in verdict, `${name}: ${text}: ${JSON.stringify(verdict)}`);
        rows.set(name, [...(rows.get(name) ?? []), verdict.accepted]);
        count += 1;
      }
    }
    assert.ok(count >= 30, `${count} records`);
  });

  test('every example has a README', () => {
    for (const example of readdirSync('examples'))
      assert.ok(readFileSync(join('examples', example, 'README.md'), 'utf8').length > 200);
  });

  test('rules-in-conflict: each finding of its README is told, and no other', async () => {
    const { code, out } = await echo('rules-in-conflict', 'review', '--format', 'json');
    const { findings } = JSON.parse(out) as { findings: readonly Finding[] };
    const ofLayers = ['not_stored', 'client_blind', 'attribute_left_out'];
    const told = findings
      .filter((one) => !ofLayers.includes(one.code))
      .map((one) => `${one.code} ${one.rules.map(({ id }) => id).join(' ')}`);
    const text = readFileSync('examples/rules-in-conflict/README.md', 'utf8');
    const listed = [...text.matchAll(/^\| `(\w+)` +\| ([^|]+)\|/gm)].map(([, finding, rules = '']) => ({
      finding,
      rules: [...rules.matchAll(/`([^`]+)`/g)].map(([, id = '']) => id),
    }));
    assert.equal(code, 1);
    assert.equal(told.length, listed.length, told.join(', '));
    listed.forEach(({ finding, rules }, at) => {
      const [first, ...ids] = told[at]?.split(' ') ?? [];
      assert.equal(first, finding);
      for (const id of rules) assert.ok(ids.includes(id), `${id} takes part in ${told[at]}`);
    });
  });
});
