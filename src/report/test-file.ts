import type { Case } from '../core/model/index.js';

/** Who is asked: a module with a function `check` for each ruleset, or an address that takes new records of it. */
export interface TestTarget {
  readonly modules: { readonly [ruleset: string]: string };
  readonly addresses: { readonly [ruleset: string]: string };
}

/**
 * Cases as a test file for Node's own runner, with all that it needs in it. It asks a function or an HTTP endpoint; the
 * cases that need stored rows of their own kind are not in it.
 */
export function testFile(cases: readonly Case[], { modules, addresses }: TestTarget): string {
  const rulesets = [...new Set(cases.map(({ ruleset }) => ruleset))];
  const lines = cases.map((one) => `  ${scriptSafe(JSON.stringify(one))}`);
  return `// Boundary cases of ${rulesets.join(', ')}. Run them with: node --test
// Made by echo-rule; what is asked can be changed here, or in the environment.
${runnerFor(modules, addresses)}
// Parsed, as a literal would take the key "__proto__" for the prototype.
const cases = JSON.parse(String.raw\`[
${lines.join(',\n')}
]\`);

await run(cases);
`;
}

/** What ends a template, begins an insertion, or can't be seen in an editor, as an escape of JSON. */
function scriptSafe(json: string): string {
  return json.replace(/[`$\u2028\u2029\ufeff\u200b-\u200f\u2060]/g, (character) => {
    return `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`;
  });
}

const runnerFor = (
  modules: TestTarget['modules'],
  addresses: TestTarget['addresses'],
) => `import assert from ${JSON.stringify('node:assert/strict')};
import { describe, test } from ${JSON.stringify('node:test')};

/** Modules that export check(record, { wire, clock }) for each ruleset, and addresses that take new records. */
const modules = JSON.parse(process.env.CASES_MODULES ?? ${JSON.stringify(JSON.stringify(modules))});
const addresses = JSON.parse(process.env.CASES_ADDRESSES ?? ${JSON.stringify(JSON.stringify(addresses))});

/** Gives a case to a function: { ok: true, value } or { ok: false, violations: [{ pointer, rule }] }. */
async function askFunction(check, one) {
  const how = { wire: one.wire, clock: one.clock };
  if (one.does === 'patch') Object.assign(how, { partial: true, existing: one.existing });
  const result = await check(structuredClone(one.input), how);
  return result.ok ? { accepted: result.value } : { refused: result.violations };
}

/** Gives a case to an endpoint: a status of 200 to 299, or a problem document (RFC 9457) with its violations. */
async function askEndpoint(address, one) {
  for (const { ruleset, row } of one.before) {
    if (addresses[ruleset] !== undefined) await send(addresses[ruleset], 'json', row);
  }
  const response = await send(address, one.wire, one.input);
  const text = await response.text();
  if (response.ok) return { accepted: null };
  assert.ok(response.status < 500, 'it breaks down: ' + response.status + ' ' + text.slice(0, 200));
  const { violations } = JSON.parse(text);
  assert.ok(Array.isArray(violations), 'a problem document without violations: ' + text.slice(0, 200));
  return { refused: violations };
}

function send(address, wire, record) {
  const isForm = wire === 'form';
  const body = isForm ? new URLSearchParams(entriesOf(record)) : JSON.stringify(record);
  const type = isForm ? 'application/x-www-form-urlencoded' : 'application/json';
  const headers = { 'content-type': type, accept: 'application/problem+json' };
  return fetch(address, { method: 'POST', redirect: 'manual', headers, body, signal: AbortSignal.timeout(10_000) });
}

function entriesOf(record) {
  const all = Object.entries(record).map(([name, value]) => [name, Array.isArray(value) ? value : [value]]);
  return all.flatMap(([name, values]) => values.map((value) => [name, String(value)]));
}

/** The places that are blamed, each once. Those behind another fault may be told or not. */
function assertVerdict(answer, { expected }) {
  if (expected.accepted !== undefined) {
    assert.ok(answer.accepted !== undefined, 'it is refused: ' + JSON.stringify(answer.refused));
    if (answer.accepted !== null) assert.deepEqual({ ...answer.accepted }, expected.accepted);
    return;
  }
  assert.ok(answer.refused !== undefined, 'it is accepted, and breaks ' + expected.refused.map((one) => one.rule).join(', '));
  const possible = new Set(expected.possibly.map((one) => one.pointer));
  const places = (list) => [...new Set(list.map((one) => one.pointer))].sort();
  const told = places(answer.refused).filter((one) => !possible.has(one) || places(expected.refused).includes(one));
  assert.deepEqual(told, places(expected.refused), 'it blames other fields');
}

async function run(list) {
  const groups = new Map();
  for (const one of list) groups.set(one.constraint, [...(groups.get(one.constraint) ?? []), one]);
  const checks = {};
  for (const [ruleset, file] of Object.entries(modules)) {
    checks[ruleset] = (await import(new URL(file, import.meta.url).href)).check;
  }
  for (const [constraint, own] of groups) {
    describe(constraint, () => {
      for (const one of own) {
        test(one.reason + ' (' + one.id + ')', async () => {
          const address = addresses[one.ruleset];
          const check = checks[one.ruleset];
          assert.ok(address ?? check, 'nobody is asked about ' + one.ruleset + ': give a module or an address');
          assertVerdict(address === undefined ? await askFunction(check, one) : await askEndpoint(address, one), one);
        });
      }
    });
  }
}
`;
