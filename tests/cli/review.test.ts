import assert from 'node:assert/strict';
import { join } from 'node:path';
import { after, describe, test } from 'node:test';
import { runIn } from '../fixtures/command-line.js';
import { temporaryFolder } from '../fixtures/project.js';

const config = `import { settings } from 'echo-rule/config';
export default settings({ rules: ['*.rules.ts'], output: 'echo' });
`;
const conflicting = `import { boolean, choice, integer, ruleset, text } from 'echo-rule';

export const shelf = ruleset('shelf', {
  fields: {
    label: text({ minLength: 9, maxLength: 4 }),
    board: choice({ oak: 'Oak', steel: 'Steel' }),
    level: integer({ min: 1, max: 6 }),
    lit: boolean(),
  },
  rules: (it) => ({
    lowOnly: it.level.isAtMost(9),
  }),
});
export const rack = ruleset('rack', { fields: { level: integer({ min: 1, max: 6 }) } });
`;

describe('reviewing and explaining on the command line', () => {
  const { folder, remove } = temporaryFolder({ 'echo-rule.config.ts': config, 'shelf.rules.ts': conflicting });
  after(remove);
  const echo = (...words: readonly string[]) => runIn(folder, join(folder, 'echo-rule.config.ts'), words);

  test('rules that conflict load and compile; review tells them, with places and a way to mend them', async () => {
    assert.equal((await echo('compile')).code, 0);
    const { code, out } = await echo('review');
    assert.equal(code, 1);
    assert.match(out, /^error \[no_value\]\n {2}No value fits label/);
    assert.match(out, /shelf\.label\.minLength\s+minLength 9\s+shelf\.rules\.ts:5/);
    assert.match(out, /without minLength: "[^"]{1,4}"/);
    assert.match(out, /without maxLength: "[^"]{9}"/);
    assert.match(out, /note \[redundant\]\n {2}lowOnly says nothing new\./);
    assert.match(out, /✗ 1 error, 1 note in 2 rulesets\.\n$/);
  });

  test('a ruleset without findings is sound, and the exit code says so', async () => {
    const { code, out } = await echo('review', '--ruleset', 'rack');
    assert.equal(code, 0);
    assert.match(out, /^✓ Nothing was found in 1 ruleset/);
    const { code: wrong, notes } = await echo('review', '--ruleset', 'kiln');
    assert.equal(wrong, 2);
    assert.match(notes, /\[ruleset_unknown\]/);
  });

  test('as JSON, with paths of the project', async () => {
    const { code, out } = await echo('review', '--format', 'json');
    assert.equal(code, 1);
    const { rulesets, findings } = JSON.parse(out);
    assert.deepEqual(rulesets, ['rack', 'shelf']);
    assert.deepEqual(Object.keys(findings[0]), [
      'code',
      'severity',
      'ruleset',
      'field',
      'place',
      'message',
      'rules',
      'proof',
      'examples',
      'mend',
    ]);
    assert.deepEqual(findings[0].place, { file: 'shelf.rules.ts', line: 5 });
  });

  test('as SARIF 2.1.0: what a reader of it needs is there, and every result names a rule that is described', async () => {
    const { out } = await echo('review', '--format', 'sarif');
    const { version, $schema, runs } = JSON.parse(out);
    assert.equal(version, '2.1.0');
    assert.match($schema, /sarif-schema-2\.1\.0\.json$/);
    const [{ tool, results }] = runs;
    assert.equal(tool.driver.name, 'echo-rule');
    for (const result of results) {
      assert.equal(tool.driver.rules[result.ruleIndex].id, result.ruleId);
      assert.ok(['error', 'warning', 'note'].includes(result.level), result.level);
      assert.ok(result.message.text.length > 20, result.message.text);
      const [{ physicalLocation }] = result.locations;
      assert.equal(physicalLocation.artifactLocation.uri, 'shelf.rules.ts');
      assert.ok(physicalLocation.region.startLine >= 1, 'lines count from 1');
    }
    const prints = results.map((result: { partialFingerprints: object }) => JSON.stringify(result.partialFingerprints));
    assert.equal(new Set(prints).size, results.length, 'each finding can be told from the others');
  });

  test('a field explained: what is asked, what each layer has, and values on both sides', async () => {
    const { code, out } = await echo('explain', 'rack.level');
    assert.equal(code, 0);
    assert.match(out, /^rack\.level {2}Level, integer, required/);
    assert.match(out, /min 1\s+Level must be 1 or more\.\s+rack\.level\.min/);
    for (const layer of ['javascript', 'html', 'postgresql', 'mariadb', 'sqlite'])
      assert.match(out, new RegExp(`\\n {2}${layer} {2,}\\S`));
    assert.match(out, /CHECK \(level >= 1\)/);
    assert.match(out, /min 1\s+✓\s+1\s+exactly the least value\n(?:.*\n)?\s+✗\s+0\s+one step below/);
    const { field, rules, layers } = JSON.parse((await echo('explain', 'rack.level', '--format', 'json')).out);
    assert.equal(field, 'level');
    assert.equal(layers.length, 5);
    assert.deepEqual(rules.map(({ id }: { id: string }) => id).slice(-2), ['rack.level.min', 'rack.level.max']);
  });

  test('a field that is none, or that several rulesets have, is told with those that there are', async () => {
    const none = await echo('explain', 'rack.depth');
    assert.equal(none.code, 2);
    assert.match(none.notes, /\[field_unknown\][\s\S]*rack\.level/);
    const several = await echo('explain', 'level');
    assert.equal(several.code, 2);
    assert.match(several.notes, /\[field_ambiguous\][\s\S]*rack\.level, shelf\.level/);
    const { code, out } = await echo('explain', 'lit');
    assert.equal(code, 0);
    assert.match(out, /No values are shown: no valid record was found/);
  });
});
