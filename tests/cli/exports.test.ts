import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { join } from 'node:path';
import { after, before, describe, test } from 'node:test';
import { parse } from 'csv-parse/sync';
import initSqlJs from 'sql.js';
import type { Case } from '../../src/core/model/index.js';
import { isValid } from '../../src/layers/documents/evaluate.js';
import { runIn } from '../fixtures/command-line.js';
import { temporaryFolder } from '../fixtures/project.js';

const kiln = `import { integer, ruleset, text } from 'echo-rule';
export const kiln = ruleset('kiln', {
  key: 'code',
  fields: { code: text({ pattern: /K[0-9]{2}/ }), name: text({ maxLength: 20 }), hottest: integer({ min: 900, max: 1400 }) },
});
`;
const firing = `import { date, integer, reference, ruleset, unique } from 'echo-rule';
import { kiln } from './kiln.rules.ts';
export const firing = ruleset('firing', {
  fields: { kiln: reference(kiln), loadOn: date(), collectOn: date({ optional: true }), pieces: integer({ min: 1, max: 40 }) },
  rules: (it) => ({ later: it.collectOn.isAfter(it.loadOn), once: unique(it.kiln, it.loadOn) }),
});
`;
const config = `import { settings } from 'echo-rule/config';
import { functionLayer, sqliteLayer } from 'echo-rule/layers';
export default settings({
  rules: ['*.rules.ts'],
  output: 'echo',
  records: { kiln: 'kilns.jsonl' },
  layers: { server: functionLayer(), sqlite: sqliteLayer() },
});
`;
const kilns = '{"code":"K01","name":"Old Smoky","hottest":1300}\n{"code":"K02","name":"Big Gas","hottest":1320}\n';

const { folder, remove } = temporaryFolder({
  'echo-rule.config.ts': config,
  'kiln.rules.ts': kiln,
  'firing.rules.ts': firing,
  'kilns.jsonl': kilns,
});
const echo = (...words: readonly string[]) => runIn(folder, join(folder, 'echo-rule.config.ts'), words);
const at = (name: string) => join(folder, name);
const jsonLines = <T>(text: string) =>
  text
    .trimEnd()
    .split('\n')
    .map((line) => JSON.parse(line) as T);

before(async () => assert.equal((await echo('compile')).code, 0));
after(remove);

/** Runs a script as the engine's shell does, which goes on behind an error: what it answers, after which nothing is stored. */
async function linesOf(tables: string, script: string): Promise<readonly string[]> {
  const database = new (await initSqlJs()).Database();
  database.run(tables);
  const answers: string[] = [];
  for (const [, statement = ''] of script.matchAll(/((?:'(?:[^']|'')*'|"(?:[^"]|"")*"|--[^\n]*|[^;'"])+);/g)) {
    try {
      for (const { columns, values } of database.exec(statement))
        if (columns[0] === 'answer') answers.push(...values.map(([answer]) => String(answer)));
    } catch {
      // A refusal, most of them expected: the answer of the case says whether this one is.
    }
  }
  const left = database.exec('SELECT (SELECT count(*) FROM kiln) + (SELECT count(*) FROM firing)')[0]?.values[0]?.[0];
  assert.equal(left, 0, 'nothing is left');
  return answers;
}

describe('cases in every format', () => {
  test('every line is what the schema says, and the list is the lines', async () => {
    const lines = jsonLines<Case>((await echo('cases')).out);
    const schema = JSON.parse(readFileSync('schemas/case.schema.json', 'utf8'));
    for (const one of lines) assert.ok(isValid(schema, one), one.id);
    assert.ok(!isValid(schema, { ...lines[0], does: 'upsert' }), 'the schema refuses something');
    assert.deepEqual(JSON.parse((await echo('cases', '--format', 'json')).out), lines);
    assert.deepEqual([...new Set(lines.map(({ does }) => does))].sort(), ['delete', 'insert', 'patch', 'replace']);
  });

  test('CSV holds the same, and reads back', async () => {
    const lines = jsonLines<Case>((await echo('cases')).out);
    const rows = parse((await echo('cases', '--format', 'csv')).out, { columns: true }) as { [name: string]: string }[];
    assert.equal(rows.length, lines.length);
    for (const [index, row] of rows.entries()) {
      const { id, input, expected } = lines[index] as Case;
      assert.equal(row.id, id);
      assert.deepEqual(JSON.parse(row.input ?? ''), input, id);
      const rules = 'refused' in expected ? expected.refused.map(({ rule }) => rule).join(' ') : '';
      assert.deepEqual([row.verdict, row.rules], ['refused' in expected ? 'refused' : 'accepted', rules], id);
    }
  });

  test('by rule, field and budget; what is left out is told', async () => {
    const rule = await echo('cases', '--rule', 'firing.pieces.max');
    assert.ok(
      jsonLines<Case>(rule.out).every(({ constraint }) => constraint === 'firing.pieces.max'),
      'one rule',
    );
    const field = await echo('cases', '--field', 'hottest', '--budget', '5');
    assert.equal(jsonLines(field.out).length, 5);
    assert.match(
      field.notes,
      /5 of \d+ cases, the most telling first: 4 of 4 rules have one\.\nLeft out: \d+, most of them of kiln\.hottest\./,
    );
    const unknown = await echo('cases', '--rule', 'firing.pieces.most');
    assert.equal(unknown.code, 2);
    assert.match(unknown.notes, /\[rule_unknown\][\s\S]*firing\.pieces\.max/);
    assert.equal((await echo('cases', '--budget', '0')).code, 2);
  });

  test('SQL changes nothing, and checks itself', async () => {
    const { code, out, notes } = await echo('cases', '--format', 'sql', '--engine', 'sqlite');
    assert.equal(code, 0);
    const tables = readFileSync(at('echo/sqlite/tables.sql'), 'utf8');
    const answers = await linesOf(tables, out);
    const plan = answers[0] ?? '';
    assert.match(plan, /^1\.\.[0-9]+$/);
    assert.equal(answers.length - 1, Number(plan.slice(3)), 'an answer for each case');
    assert.match(notes, new RegExp(`^${Number(plan.slice(3)).toLocaleString('en')} cases of`), 'the counts add up');
    assert.deepEqual(
      answers.slice(1).filter((line) => !line.startsWith('ok ')),
      [],
    );
    const loose = await linesOf(tables.replace(/hottest >= 900/, 'hottest >= 0'), out);
    const found = loose.filter((line) => line.startsWith('not ok '));
    assert.ok(found.length > 0 && found.every((line) => line.includes('kiln.hottest.min')), found.join('\n'));
    assert.equal((await echo('cases', '--format', 'sql')).code, 2, 'whose SQL must be said');
  });

  test('a test file passes on the compiled module, fails on one with a mistake, and is not written over', async () => {
    const file = at('boundaries.test.mjs');
    assert.equal((await echo('cases', '--format', 'test', '--out', 'boundaries.test.mjs')).code, 0);
    const good = nodeTest(file, {});
    assert.equal(good.status, 0, good.stdout.slice(-2_000));
    assert.match(good.stdout, /# pass \d{3}/);
    const module = readFileSync(at('echo/javascript/kiln.js'), 'utf8');
    writeFileSync(at('by-hand.mjs'), module.replace('hottest > 1400', 'hottest >= 1400'));
    const bad = nodeTest(file, {
      CASES_MODULES: JSON.stringify({ kiln: './by-hand.mjs', firing: './echo/javascript/firing.js' }),
    });
    assert.equal(bad.status, 1);
    assert.match(bad.stdout, /not ok \d+ - exactly the greatest value \(kiln\.hottest\.max\/edges\/json/);
    const again = await echo('cases', '--format', 'test', '--out', 'boundaries.test.mjs');
    assert.equal(again.code, 2);
    assert.match(again.notes, /\[file_exists\]/);
  });

  test('a test file asks an endpoint, and stores accepted records one after the other', async () => {
    const { check } = await import(at('echo/javascript/kiln.js'));
    const stored = new Set<string>();
    let repeated = 0;
    const server = createServer(async (request, response) => {
      const chunks: Buffer[] = [];
      for await (const chunk of request) chunks.push(chunk as Buffer);
      const body = Buffer.concat(chunks).toString();
      const isForm = request.headers['content-type']?.startsWith('application/x-www-form-urlencoded');
      const entries = new Map<string, string[]>();
      if (isForm)
        for (const [name, value] of new URLSearchParams(body)) entries.set(name, [...(entries.get(name) ?? []), value]);
      const sent = isForm ? Object.fromEntries(entries) : JSON.parse(body);
      const result = check(sent, { wire: isForm ? 'form' : 'json' });
      if (result.ok) {
        if (stored.has(result.value.code)) repeated += 1;
        stored.add(result.value.code);
      }
      response.writeHead(result.ok ? 201 : 422, { 'content-type': 'application/problem+json' });
      response.end(JSON.stringify(result.ok ? result.value : { violations: result.violations }));
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    const address = server.address();
    const port = typeof address === 'object' ? address?.port : 0;
    const words = ['cases', '--ruleset', 'kiln', '--format', 'test', '--out', 'endpoint.test.mjs'];
    assert.equal((await echo(...words, '--url', `kiln=http://127.0.0.1:${port}/kilns`)).code, 0);
    const { status, output } = await nodeTestBeside(at('endpoint.test.mjs'));
    server.close();
    // A damaged character can't be sent in a form: it is replaced on the way, and refused all the same.
    assert.equal(status, 0, output.slice(-3_000));
    assert.ok(stored.size > 20, `${stored.size} records stored, ${repeated} codes came twice`);
  });
});

describe('records that are made up, on the command line', () => {
  test('given rows first, then as many as asked; the same for the same seed', async () => {
    const { code, out, notes } = await echo('fill', '5', '--seed', '7');
    assert.equal(code, 0);
    const lines = jsonLines<{ ruleset: string; record: { [name: string]: unknown } }>(out);
    assert.deepEqual(
      lines.slice(0, 2).map(({ record }) => record.code),
      ['K01', 'K02'],
    );
    assert.equal(lines.filter(({ ruleset }) => ruleset === 'firing').length, 5);
    assert.match(notes, /kiln: 2 given\nfiring: 5 made up\n/);
    assert.equal((await echo('fill', '5', '--seed', '7')).out, out);
    assert.notEqual((await echo('fill', '5', '--seed', '8')).out, out);
  });

  test('files of each ruleset, in JSON Lines and CSV; SQL that the tables take; nothing that is there is repeated', async () => {
    assert.equal((await echo('fill', '20', '--out', 'made')).code, 0);
    assert.equal(readFileSync(at('made/kiln.jsonl'), 'utf8'), kilns);
    const refused = await echo('fill', '20', '--out', 'made');
    assert.equal(refused.code, 2);
    assert.match(refused.notes, /\[file_exists\]/);
    assert.equal((await echo('fill', '20', '--format', 'csv', '--out', 'made')).code, 0);
    const rows = parse(readFileSync(at('made/firing.csv'), 'utf8'), { columns: true }) as { [name: string]: string }[];
    assert.equal(rows.length, 20);
    const more = await echo('fill', '20', '--beside', `firing=${at('made/firing.csv')}`);
    const keyOf = (one: { [name: string]: unknown }) => `${one.kiln} ${one.loadOn}`;
    const there = new Set(rows.map(keyOf));
    const records = jsonLines<{ ruleset: string; record: { [name: string]: unknown } }>(more.out);
    const own = records.filter(({ ruleset }) => ruleset === 'firing').map(({ record }) => record);
    assert.ok(own.length === 20 && !own.some((one) => there.has(keyOf(one))), 'no kiln twice on a day');
    assert.equal((await echo('fill', '30', '--format', 'sql', '--engine', 'sqlite', '--out', 'made.sql')).code, 0);
    const database = new (await initSqlJs()).Database();
    database.run('PRAGMA foreign_keys = ON');
    database.run(readFileSync(at('echo/sqlite/tables.sql'), 'utf8'));
    database.run(readFileSync(at('made.sql'), 'utf8'));
    assert.deepEqual(database.exec('SELECT count(*) FROM firing')[0]?.values, [[30]]);
    writeFileSync(at('studio.db'), database.export());
  });

  test('what cannot be is told, and nothing is written', async () => {
    const most = await echo('fill', '200', '--ruleset', 'kiln', '--out', 'kilns');
    assert.equal(most.code, 2);
    assert.match(most.notes, /\[fill_exhausted\][\s\S]*No more than 98 of 200 records of kiln/);
    assert.ok(!existsSync(at('kilns')), 'nothing is written');
    assert.match((await echo('fill', '2', '--beside', 'server')).notes, /\[layer_storeless\]/);
    assert.match((await echo('fill', '2', '--beside', 'oven=x.csv')).notes, /\[ruleset_unknown\]/);
    assert.match((await echo('fill', '2', '--format', 'csv')).notes, /\[option_missing\][\s\S]*--out/);
    writeFileSync(at('kilns.jsonl'), `${kilns}{"code":"K3","name":"","hottest":5}\n{"code"\n`);
    const broken = await echo('fill', '2');
    assert.equal(broken.code, 2);
    assert.match(broken.notes, /\[row_unread\] .*kilns\.jsonl:4/);
    writeFileSync(at('kilns.jsonl'), `${kilns}{"code":"K3","name":"","hottest":5}\n`);
    const wrong = await echo('fill', '2');
    assert.match(wrong.notes, /\[row_refused\] .*kilns\.jsonl:3[\s\S]*kiln\.code\.pattern[\s\S]*kiln\.hottest\.min/);
    writeFileSync(at('kilns.jsonl'), kilns);
  });
});

const environment = (more: { readonly [name: string]: string }) => {
  const { NODE_TEST_CONTEXT: _, ...own } = process.env;
  return { ...own, ...more };
};

function nodeTest(file: string, more: { readonly [name: string]: string }) {
  return spawnSync(process.execPath, ['--test', '--test-reporter=tap', file], {
    encoding: 'utf8',
    env: environment(more),
  });
}

/** The same without stopping this process, which answers. */
async function nodeTestBeside(file: string): Promise<{ status: number | null; output: string }> {
  const { spawn } = await import('node:child_process');
  const child = spawn(process.execPath, ['--test', '--test-reporter=tap', file], { env: environment({}) });
  let output = '';
  child.stdout.on('data', (chunk) => {
    output += String(chunk);
  });
  const status = await new Promise<number | null>((done) => child.on('close', done));
  return { status, output };
}
