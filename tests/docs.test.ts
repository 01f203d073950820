import assert from 'node:assert/strict';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { describe, test } from 'node:test';
import { findingsPage, kindsPage, problemsPage } from '../scripts/pages.js';

const pages = [
  'README.md',
  ...readdirSync('docs')
    .filter((file) => file.endsWith('.md'))
    .map((file) => join('docs', file)),
];

describe('the docs', () => {
  test('the pages made from tables are fresh (npm run docs makes them)', () => {
    assert.equal(readFileSync('docs/problems.md', 'utf8'), problemsPage());
    assert.equal(readFileSync('docs/kinds.md', 'utf8'), kindsPage());
    assert.equal(readFileSync('docs/findings.md', 'utf8'), findingsPage());
  });

  test('every link to a file leads somewhere', () => {
    for (const page of pages) {
      for (const [, target = ''] of readFileSync(page, 'utf8').matchAll(/\]\(([^)#]+)(?:#[^)]*)?\)/g)) {
        if (!/^https?:/.test(target)) assert.ok(existsSync(join(dirname(page), target)), `${page} links to ${target}`);
      }
    }
  });

  test('every picture is shown on a page', () => {
    const text = pages.map((page) => readFileSync(page, 'utf8')).join('\n');
    for (const picture of readdirSync('docs/screenshots')) assert.ok(text.includes(picture), picture);
  });

  test('the README names the two commands', () => {
    const text = readFileSync('README.md', 'utf8');
    for (const command of ['npm ci && npm run demo', 'npm ci && npm test']) assert.ok(text.includes(command), command);
  });
});
