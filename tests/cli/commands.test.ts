import assert from 'node:assert/strict';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { after, before, describe, test } from 'node:test';
import { runIn } from '../fixtures/command-line.js';
import { temporaryFolder } from '../fixtures/project.js';

const kiln = `import { integer, ruleset, text } from 'echo-rule';

export const code = text({ pattern: /K[0-9]{2}/ });
export const kiln = ruleset('kiln', { key: 'code', fields: { code, hottest: integer({ min: 900, max: 1400 }) } });
export const answer = 42;
`;
const config = `import { settings } from 'echo-rule/config';
import { functionLayer, sqliteLayer } from 'echo-rule/layers';
export default settings({
  rules: ['*.rules.ts'],
  output: 'echo',
  layers: { server: functionLayer(), sqlite: sqliteLayer() },
});
`;

/** A project of its own for a test, and the command line in it. */
function project(files: { readonly [path: string]: string }) {
  const { folder, remove } = temporaryFolder(files);
  return {
    folder,
    remove,
    echo: (...words: readonly string[]) => runIn(folder, join(folder, 'echo-rule.config.ts'), words),
  };
}

describe('a project on the command line', () => {
  const here = project({ 'echo-rule.config.ts': config, 'kiln.rules.ts': kiln, 'empty.rules.ts': '' });
  before(async () => assert.equal((await here.echo('compile')).code, 0));
  after(here.remove);

  test('compile lists every ruleset, what it passed over, and the files it made', async () => {
    const { code, out } = await here.echo('compile');
    assert.equal(code, 0);
    assert.match(out, /kiln\s+kiln\.rules\.ts\s+2 fields\s+0 rules/);
    assert.match(out, /code\s+kiln\.rules\.ts\s+a field definition/);
    assert.match(out, /answer\s+kiln\.rules\.ts\s+no ruleset \(number\)/);
    assert.match(out, /empty\.rules\.ts\s+it exports nothing/);
    assert.match(out, /unchanged\s+echo\/sqlite\/tables\.sql/);
    assert.doesNotMatch(out, /written/);
    const { rulesets } = JSON.parse((await here.echo('compile', '--format', 'json')).out);
    assert.deepEqual(rulesets, [{ name: 'kiln', file: 'kiln.rules.ts', fields: 2, rules: 0 }]);
  });

  test('a made file edited by hand stops compile, with a way on; nothing is written', async () => {
    const file = join(here.folder, 'echo/javascript/kiln.js');
    const made = readFileSync(file, 'utf8');
    writeFileSync(file, made.replace('1400', '1500'));
    writeFileSync(join(here.folder, 'kiln.rules.ts'), kiln.replace('min: 900', 'min: 800'));
    const tables = readFileSync(join(here.folder, 'echo/sqlite/tables.sql'), 'utf8');
    const stopped = await here.echo('compile');
    assert.equal(stopped.code, 1);
    assert.match(stopped.notes, /\[file_edited\] echo\/javascript\/kiln\.js:1/);
    assert.match(stopped.notes, /--overwrite/);
    assert.match(readFileSync(file, 'utf8'), /1500/);
    assert.equal(readFileSync(join(here.folder, 'echo/sqlite/tables.sql'), 'utf8'), tables);
    assert.equal((await here.echo('compile', '--overwrite')).code, 0);
    assert.doesNotMatch(readFileSync(file, 'utf8'), /1500/);
    writeFileSync(join(here.folder, 'kiln.rules.ts'), kiln);
    assert.equal((await here.echo('compile')).code, 0);
    assert.equal(readFileSync(file, 'utf8'), made, 'the same rules give the same bytes');
  });

  test('a file that is not ours is never overwritten, and a made one that nothing makes any more is told', async () => {
    const foreign = join(here.folder, 'echo/html/kiln.html');
    const made = readFileSync(foreign, 'utf8');
    writeFileSync(foreign, '<p>mine</p>');
    for (const words of [['compile'], ['compile', '--overwrite']]) {
      const { code, notes } = await here.echo(...words);
      assert.equal(code, 2);
      assert.match(notes, /\[file_foreign\]/);
      assert.equal(readFileSync(foreign, 'utf8'), '<p>mine</p>');
    }
    writeFileSync(foreign, made);
    writeFileSync(join(here.folder, 'echo/html/oven.html'), made);
    const { out } = await here.echo('compile');
    assert.match(out, /no longer made\s+echo\/html\/oven\.html/);
    assert.deepEqual(
      readdirSync(join(here.folder, 'echo'), { recursive: true, encoding: 'utf8' }).filter((file) =>
        file.includes('.echo-rule-'),
      ),
      [],
    );
  });

  test('probe: all agree, in words and as JSON', async () => {
    const { code, out } = await here.echo('probe');
    assert.equal(code, 0);
    assert.match(out, /All layers agree\./);
    const result = JSON.parse((await here.echo('probe', '--layer', 'sqlite', '--format', 'json')).out);
    assert.deepEqual(Object.keys(result), [
      'rulesets',
      'layers',
      'cases',
      'answers',
      'notApplicable',
      'setupFaults',
      'coverage',
      'mismatches',
      'known',
      'tolerated',
      'suggested',
      'byRule',
      'untested',
    ]);
    assert.deepEqual(result.layers, [{ name: 'sqlite', kind: 'sqlite' }]);
    assert.deepEqual(result.mismatches, []);
    const limit = result.byRule.find((row: { rule: string }) => row.rule === 'kiln.hottest.max');
    assert.equal(limit.status, 'tested');
  });

  test('probe finds what the tables have and the rules no longer have', async () => {
    writeFileSync(join(here.folder, 'kiln.rules.ts'), kiln.replace('max: 1400', 'max: 1500'));
    const { code, out } = await here.echo('probe');
    writeFileSync(join(here.folder, 'kiln.rules.ts'), kiln);
    assert.equal(code, 1);
    assert.match(out, /server\s+hottest\.max\s+hottest 1500\s+refuses it: Hottest must be 1400 or less/);
    assert.match(out, /sqlite\s+hottest\.max\s+hottest 1500\s+refuses it: CHECK constraint failed: kiln_hottest_max/);
  });

  test('cases are JSON Lines, the same each time', async () => {
    const { code, out } = await here.echo('cases');
    assert.equal(code, 0);
    const list = out
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line));
    assert.ok(list.length > 100, `${list.length} cases`);
    assert.equal(new Set(list.map(({ id }) => id)).size, list.length, 'ids are unique');
    const edge = list.find(
      ({ constraint, reason, wire }) =>
        constraint === 'kiln.hottest.max' && /one step above/.test(reason) && wire === 'json',
    );
    assert.equal(edge.input.hottest, 1401);
    assert.equal(edge.expected.refused[0].rule, 'kiln.hottest.max');
    assert.equal((await here.echo('cases')).out, out);
    assert.deepEqual(JSON.parse((await here.echo('cases', '--format', 'json')).out), list);
    const file = join(here.folder, 'cases.jsonl');
    assert.equal((await here.echo('cases', '--out', 'cases.jsonl')).code, 0);
    assert.equal(readFileSync(file, 'utf8'), out);
    const again = await here.echo('cases', '--out', 'cases.jsonl');
    assert.equal(again.code, 2);
    assert.match(again.notes, /\[file_exists\]/);
    assert.equal((await here.echo('cases', '--out', 'cases.jsonl', '--overwrite')).code, 0);
  });

  test("try gives one record to every layer and shows each one's answer", async () => {
    const good = await here.echo('try', 'kiln', '{"code":" K01 ","hottest":1280}');
    assert.equal(good.code, 0);
    assert.match(good.out, /accepted as this kiln:\s+code\s+"K01"/);
    assert.match(good.out, /✓ sqlite\s+accepted/);
    const bad = await here.echo('try', 'kiln', '{"code":"k1","hottest":"x"}', '--wire', 'form', '--format', 'json');
    const { expected, layers } = JSON.parse(bad.out);
    assert.deepEqual(
      expected.refused.map(({ rule }: { rule: string }) => rule),
      ['kiln.code.pattern', 'kiln.hottest.type'],
    );
    assert.deepEqual(
      layers.map(({ name, status }: { name: string; status: string }) => `${name} ${status}`),
      ['server agrees', 'sqlite agrees'],
    );
    const broken = await here.echo('try', 'kiln', '{code}');
    assert.equal(broken.code, 2);
    assert.match(broken.notes, /\[record_invalid\]/);
  });

  const wrong: readonly (readonly [words: readonly string[], code: number, said: RegExp])[] = [
    [['probe', '--layer', 'oven'], 2, /\[layer_unknown\][\s\S]*server, sqlite/],
    [['probe', '--ruleset', 'oven'], 2, /\[ruleset_unknown\][\s\S]*kiln/],
    [['try', 'oven', '{}'], 2, /\[ruleset_unknown\]/],
    [['try', 'kiln', '{}', '--wire', 'pigeon'], 2, /form, json, row/],
    [['bake'], 2, /unknown command 'bake'/],
    [['probe', '--format', 'xml'], 2, /text, json/],
    [['--config', 'nowhere.ts', 'compile'], 2, /\[config_missing\][\s\S]*--config/],
  ];
  for (const [words, code, said] of wrong) {
    test(`${words.join(' ')}: exit code ${code} and what to do`, async () => {
      const result = await here.echo(...words);
      assert.equal(result.code, code);
      assert.match(result.notes, said);
      assert.doesNotMatch(result.notes, /\n\s+at /, 'no stack trace');
    });
  }

  test('help tells the commands and the exit codes', async () => {
    const { code, out } = await here.echo('--help');
    assert.equal(code, 0);
    for (const word of ['compile', 'probe', 'cases', 'try', 'Exit codes']) assert.match(out, new RegExp(word));
  });
});

test('many rulesets are made anew as easily as one', async () => {
  const names = Array.from({ length: 20 }, (_, at) => `kiln${at}`);
  const files = names.map((name) => [`${name}.rules.ts`, kiln.replaceAll('kiln', name)]);
  const here = project({ 'echo-rule.config.ts': config, ...Object.fromEntries(files) });
  assert.equal((await here.echo('compile')).code, 0);
  const { written } = JSON.parse((await here.echo('compile', '--format', 'json')).out);
  assert.deepEqual(written, []);
  here.remove();
});

describe('a project that is wrong', () => {
  const table: readonly (readonly [
    what: string,
    files: { readonly [path: string]: string },
    words: readonly string[],
    code: number,
    said: RegExp,
  ])[] = [
    [
      'a rules file that does not parse',
      { 'kiln.rules.ts': 'export const a = 1;\nexport const b = {;\n' },
      ['compile'],
      2,
      /\[file_broken\] kiln\.rules\.ts:2/,
    ],
    [
      'a rules file that throws',
      { 'kiln.rules.ts': '\n\nconst nothing = undefined as never as { a: 1 };\nexport const b = nothing.a;\n' },
      ['compile'],
      2,
      /\[file_broken\] kiln\.rules\.ts:4/,
    ],
    [
      'a declaration with a problem',
      { 'kiln.rules.ts': kiln.replace('K[0-9]{2}', '\\-') },
      ['compile'],
      2,
      /\[pattern_invalid\] kiln\.rules\.ts:3/,
    ],
    ['no rules file', {}, ['compile'], 2, /\[rules_missing\]/],
    ['no ruleset', { 'kiln.rules.ts': 'export const a = 1;' }, ['compile'], 2, /\[rulesets_missing\]/],
    [
      'a setting that is not known',
      { 'echo-rule.config.ts': config.replace('output', 'outptu'), 'kiln.rules.ts': kiln },
      ['compile'],
      2,
      /\[config_invalid\] echo-rule\.config\.ts:5\s+The configuration is wrong at outptu/,
    ],
    [
      'a layer that is none',
      { 'echo-rule.config.ts': config.replace('functionLayer()', '{}'), 'kiln.rules.ts': kiln },
      ['compile'],
      2,
      /layers\.server/,
    ],
    [
      'a layer for a ruleset that is not there',
      {
        'echo-rule.config.ts': config.replace('sqliteLayer()', "sqliteLayer({ rulesets: ['oven'] })"),
        'kiln.rules.ts': kiln,
      },
      ['compile'],
      2,
      /\[ruleset_unknown\]/,
    ],
    [
      'a config that names a file that is not there',
      {
        'echo-rule.config.ts': config.replace('sqliteLayer()', "sqliteLayer({ sql: 'none.sql' })"),
        'kiln.rules.ts': kiln,
      },
      ['probe', '--layer', 'sqlite'],
      2,
      /\[file_missing\][\s\S]*none\.sql/,
    ],
    [
      'layers before anything was compiled',
      { 'kiln.rules.ts': kiln },
      ['probe'],
      2,
      /\[not_compiled\][\s\S]*echo-rule compile/,
    ],
    [
      'SQL that fails',
      {
        'echo-rule.config.ts': config.replace('sqliteLayer()', "sqliteLayer({ sql: 'bad.sql' })"),
        'kiln.rules.ts': kiln,
        'bad.sql': 'CREATE TABEL x',
      },
      ['probe', '--layer', 'sqlite'],
      3,
      /\[layer_unreachable\]/,
    ],
    [
      'a table that lacks a column',
      {
        'echo-rule.config.ts': config.replace('sqliteLayer()', "sqliteLayer({ sql: 'a.sql' })"),
        'kiln.rules.ts': kiln,
        'a.sql': 'CREATE TABLE kiln (code)',
      },
      ['probe', '--layer', 'sqlite'],
      2,
      /\[layer_unfit\][\s\S]*"sqlite"[\s\S]*no column "hottest" for kiln\.hottest/,
    ],
    [
      'no layers',
      { 'echo-rule.config.ts': config.replace(/ {2}layers: .*\n/, ''), 'kiln.rules.ts': kiln },
      ['probe'],
      2,
      /\[layers_missing\][\s\S]*functionLayer\(\)/,
    ],
    [
      'a scale above the precision',
      {
        'kiln.rules.ts': kiln
          .replace('integer({ min: 900, max: 1400 })', 'decimal({ precision: 2, scale: 5 })')
          .replace('{ integer', '{ decimal'),
      },
      ['compile'],
      2,
      /\[facet_invalid\] kiln\.rules\.ts:4\s+hottest\.scale must be at most precision \(2\), not 5/,
    ],
    [
      'an import that is misspelt',
      { 'kiln.rules.ts': kiln.replace(/integer/g, 'integr') },
      ['compile'],
      2,
      /\[import_unknown\] kiln\.rules\.ts:1[\s\S]*Import "integer"/,
    ],
    [
      'a reference to nothing',
      {
        'kiln.rules.ts': kiln
          .replace('{ integer,', '{ integer, reference,')
          .replace('fields: { code', 'fields: { code, other: reference(undefined as never)'),
      },
      ['compile'],
      2,
      /\[reference_undefined\] kiln\.rules\.ts:4/,
    ],
    [
      'words for a rule that is none',
      { 'kiln.rules.ts': kiln.replace('max: 1400', "max: 1400, messages: { patern: 'No.' }") },
      ['compile'],
      2,
      /\[message_unknown\] kiln\.rules\.ts:4\s+messages of hottest has words for "patern"[\s\S]*min, max/,
    ],
    [
      'a function that needs something from around it',
      {
        'kiln.rules.ts': kiln
          .replace(
            '} });',
            '}, rules: (it) => ({\n  low: custom([it.hottest],\n    (hottest) => hottest < answer),\n}) });',
          )
          .replace('{ integer', '{ custom, integer'),
      },
      ['compile'],
      2,
      /\[function_outside\] kiln\.rules\.ts:6\s+The function of low uses "answer"/,
    ],
    [
      'rulesets that require each other',
      {
        'kiln.rules.ts': `import { integer, reference, ruleset } from 'echo-rule';
export const a = ruleset('a', { key: 'id', fields: { id: integer(), b: reference('b', integer()) } });
export const b = ruleset('b', { key: 'id', fields: { id: integer(), a: reference('a', integer()) } });
`,
      },
      ['fill', '2'],
      2,
      /\[no_first_row\][\s\S]*b, a require each other in a circle/,
    ],
    [
      'an output folder that is a file',
      { 'echo-rule.config.ts': config.replace("'echo'", "'kiln.rules.ts/echo'"), 'kiln.rules.ts': kiln },
      ['compile'],
      2,
      /\[file_unwritable\]/,
    ],
    [
      'a module by hand that does not parse',
      {
        'echo-rule.config.ts': config.replace('functionLayer()', "functionLayer({ modules: { kiln: 'hand.ts' } })"),
        'kiln.rules.ts': kiln,
        'hand.ts': '\nexport const check = {;\n',
      },
      ['probe', '--layer', 'server'],
      2,
      /\[file_broken\] hand\.ts:2/,
    ],
    [
      'one problem in a file that two load',
      {
        'kiln.rules.ts': kiln.replace('min: 900', 'min: 9.5'),
        'two.rules.ts': "import { kiln } from './kiln.rules.ts';\nexport const again = kiln;\n",
      },
      ['compile'],
      2,
      /^(?![\s\S]*facet_invalid[\s\S]*facet_invalid)[\s\S]*\[facet_invalid\]/,
    ],
    [
      'rules that no record fits',
      { 'kiln.rules.ts': kiln.replace('min: 900', 'min: 9000') },
      ['cases'],
      2,
      /\[no_base\] kiln\.rules\.ts:4[\s\S]*kiln\.hottest\.max/,
    ],
  ];
  for (const [what, files, words, code, said] of table) {
    test(`${what}: exit code ${code}, the place and the fix`, async () => {
      const here = project({ 'echo-rule.config.ts': config, ...files });
      const result = await here.echo(...words);
      assert.match(result.notes, said);
      assert.match(result.notes, /→ \S/);
      assert.equal(result.code, code);
      assert.ok(!existsSync(join(here.folder, 'echo')), 'nothing was written');
      here.remove();
    });
  }
});
