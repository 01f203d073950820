// Runs every test file with Node's own runner, two files at a time. `--soak` runs the long form of the property tests.
import { spawnSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';

const files = readdirSync('tests', { recursive: true })
  .map((file) => join('tests', file))
  .filter((file) => file.endsWith('.test.ts'))
  .sort();
const soak = process.argv.includes('--soak');
const wanted = soak ? files.filter((file) => file.includes('property')) : files;
const { status } = spawnSync(process.execPath, ['--import', 'tsx', '--test', '--test-concurrency=2', ...wanted], {
  stdio: 'inherit',
  env: { ...process.env, TZ: 'UTC', ...(soak ? { ECHO_RULE_SOAK: '1' } : {}) },
});
process.exitCode = status ?? 1;
