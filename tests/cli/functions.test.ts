import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { after, describe, test } from 'node:test';
import { pathToFileURL } from 'node:url';
import { runIn } from '../fixtures/command-line.js';
import { temporaryFolder } from '../fixtures/project.js';

const { folder, remove } = temporaryFolder({
  'cup.rules.ts': `import { custom, integer, lookUp, ruleset, text, timestamp, now } from 'echo-rule';
export const cup = ruleset('cup', {
  fields: {
    name: text({ maxLength: 9 }),
    height: integer({ default: 9, optional: true }),
    fired: timestamp({ optional: true }),
    slug: text({ generated: 'derived' }),
  },
  derived: (it) => ({ slug: it.name.slug() }),
  rules: (it) => ({
    odd: custom([it.height], (height) => { const half = (of: number): number => of / 2; return half(height) !== Math.floor(half(height)); }),
    past: it.fired.isBefore(now()),
    free: lookUp([it.name]),
  }),
});
`,
  'echo-rule.config.ts': `import { settings } from 'echo-rule/config';
export default settings({ rules: ['*.rules.ts'], output: 'echo', layers: {} });
`,
});

type Checked = {
  readonly ok: boolean;
  readonly value?: object;
  readonly violations?: readonly { readonly rule: string }[];
};
interface Module {
  check(input: unknown, how?: object): Checked;
  checkAsync(input: unknown, how?: object): Promise<Checked>;
  derive(value: object): object;
}

describe('what is compiled from functions', () => {
  after(remove);

  test('a module that holds them by itself: checked, asked, worked out', async () => {
    const { code, notes } = await runIn(process.cwd(), join(folder, 'echo-rule.config.ts'), ['compile']);
    assert.equal(code, 0, notes);
    const file = join(folder, 'echo/javascript/cup.js');
    assert.doesNotMatch(
      readFileSync(file, 'utf8'),
      /^import |\beval\b|of: number/m,
      'plain JavaScript, without imports',
    );
    const module = (await import(pathToFileURL(file).href)) as Module;
    const rules = ({ violations = [] }: Checked) => violations.map(({ rule }) => rule);
    const lookUps = { free: async (name: string) => name !== 'taken' };
    const clock = { instant: '2026-03-02T09:00:00Z' };
    assert.deepEqual(rules(module.check({ name: 'rim', height: 4, fired: '2026-03-02T10:00:00+01:00' }, { clock })), [
      'cup.odd',
      'cup.past',
    ]);
    assert.deepEqual(rules(await module.checkAsync({ name: 'taken', height: 4 }, { lookUps })), [
      'cup.odd',
      'cup.free',
    ]);
    assert.deepEqual(rules(await module.checkAsync({ name: 'far too long', height: 4 }, { lookUps })), [
      'cup.name.maxLength',
      'cup.odd',
    ]);
    const checked = module.check({ name: 'Éclat 2' });
    assert.deepEqual(checked.value, { name: 'Éclat 2', height: 9, fired: null });
    assert.deepEqual(module.derive(checked.value ?? {}), { slug: 'eclat-2' });
  });
});
