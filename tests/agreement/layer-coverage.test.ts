import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { probeLayers } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import { date, integer, ruleset, text } from '../../src/index.js';
import { functionLayer, type Layer } from '../../src/layers/index.js';
import { runIn } from '../fixtures/command-line.js';
import { compiled, temporaryFolder } from '../fixtures/project.js';

const crate = ruleset('crate', {
  key: 'code',
  fields: { code: text({ pattern: /C[0-9]{2}/ }), weight: integer({ max: 90 }) },
});
const trip = ruleset('trip', { fields: { at: date(), seats: integer({ min: 1, max: 9 }) } });
const schema = schemaOf([crate, trip]);
const cases = schema.flatMap((one) => casesFor(one, schema));

/** The compiled module, but so many of a ruleset's cases are answered only. */
function answering(share: number, of: string, only: readonly string[] | null = null): Layer {
  const sound = functionLayer();
  return {
    ...sound,
    rulesets: only,
    open: async (surroundings) => {
      const opened = await sound.open(surroundings);
      return {
        ...opened,
        async *answer(given) {
          const own = given.filter(({ ruleset: name }) => name === of);
          const left = new Set(own.slice(Math.ceil(own.length * share)));
          for await (const [one, answer] of opened.answer(given))
            yield [one, left.has(one) ? { notApplicable: `no control for ${one.does}` } : answer] as const;
        },
      };
    },
  };
}

async function probed(layers: { readonly [name: string]: Layer }) {
  const surroundings = compiled(schema);
  try {
    return await probeLayers(cases, layers, surroundings, schema, ledgerOf(schema));
  } finally {
    surroundings.remove();
  }
}

describe('how many cases a layer answers', () => {
  const shares: readonly (readonly [what: string, share: number, silent: boolean])[] = [
    ['all', 1, false],
    ['one in five', 0.2, false],
    ['one in twenty', 0.05, true],
    ['none', 0, true],
  ];
  for (const [what, share, silent] of shares)
    test(`${what} of those that it takes`, async () => {
      const { coverage, mismatches } = await probed({ server: answering(share, 'trip') });
      assert.deepEqual(mismatches, []);
      assert.deepEqual(
        coverage.map((one) => [one.ruleset, one.silent]),
        [
          ['crate', false],
          ['trip', silent],
        ],
      );
      for (const { notApplicable, cases: count, answered } of coverage)
        assert.equal(
          notApplicable.reduce((sum, one) => sum + one.cases, 0),
          count - answered,
          'every case that is not answered has a reason',
        );
    });

  test('a ruleset that a layer does not have is no gap', async () => {
    const { coverage } = await probed({ server: answering(1, 'trip', ['trip']) });
    assert.deepEqual(
      coverage.map((one) => [one.layer, one.ruleset]),
      [['server', 'trip']],
    );
  });

  test('a layer that takes no wire of any case is silent', async () => {
    const sound = functionLayer();
    const { coverage } = await probed({ server: { ...sound, can: { ...sound.can, wires: [] } } });
    assert.ok(
      coverage.every((one) => one.silent && one.notApplicable.some(({ reason }) => /takes no json/.test(reason))),
      'both rulesets',
    );
  });

  test('on the command line: what is not tested comes first, and the exit code is 1', async () => {
    const { folder, remove } = temporaryFolder({
      'crate.rules.ts': `import { ruleset, text } from 'echo-rule';
export const crate = ruleset('crate', { key: 'code', fields: { code: text({ maxLength: 4 }) } });
`,
      'echo-rule.config.ts': `import { settings } from 'echo-rule/config';
import { functionLayer } from 'echo-rule/layers';
const sound = functionLayer();
const mute = async () => ({
  async *answer(cases) {
    for (const one of cases) yield [one, { notApplicable: 'a time control holds something else' }];
  },
  close: async () => {},
});
export default settings({ rules: ['*.rules.ts'], output: 'echo', layers: { server: sound, page: { ...sound, open: mute } } });
`,
    });
    const echo = (...words: readonly string[]) => runIn(folder, `${folder}/echo-rule.config.ts`, words);
    try {
      await echo('compile');
      const { code, out } = await echo('probe');
      assert.equal(code, 1);
      assert.match(out, /^page: 0 of \d+ cases of crate are answered\. The layer is not tested/);
      assert.match(out, /\d+ +a time control holds something else/);
      assert.match(out, /1 layer not tested\. \d+ cases/);
      assert.doesNotMatch(out, /All layers agree/);
      assert.match((await echo('probe', '--known')).out, /Not applicable\n +layer +cases +reason/);
      assert.equal((await echo('probe', '--layer', 'server')).code, 0);
    } finally {
      remove();
    }
  });
});
