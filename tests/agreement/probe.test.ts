import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { type Mismatch, probeLayers } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { decide } from '../../src/core/meaning/index.js';
import type { Answer, Case } from '../../src/core/model/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import { boolean, choice, integer, ruleset, text } from '../../src/index.js';
import type { Layer } from '../../src/layers/index.js';

const pot = ruleset('pot', {
  key: 'code',
  fields: {
    code: text({ pattern: /[A-Z]{2}-[0-9]{4}/ }),
    name: text({ minLength: 3, maxLength: 20 }),
    height: integer({ min: 5, max: 90 }),
    glaze: choice({ ash: 'Ash', slip: 'Slip' }),
    fired: boolean(),
    owner: text({ maxLength: 12, optional: true }),
  },
  rules: (it) => ({ slipIsLow: it.glaze.is('slip').implies(it.height.isAtMost(40)) }),
});
const schema = schemaOf([pot]);
const [model] = schema;
const cases = schema
  .flatMap((one) => casesFor(one, schema))
  .filter(({ wire, does }) => wire === 'json' && does === 'insert');

type Raw = { readonly [name: string]: unknown };
type Says = (record: Raw, right: Answer, one: Case) => Answer;

/** A server by hand: it says what it should, and then something of its own. */
function serverThat(says: Says): Layer {
  return {
    kind: 'function',
    target: 'javascript',
    rulesets: null,
    can: { store: true, allViolations: true, wires: ['json'], does: ['insert'], on: ['server'], convertsFirst: false },
    open: async () => ({
      async *answer(asked) {
        for (const one of asked) {
          const store = (of: string) => one.before.filter(({ ruleset: name }) => name === of).map(({ row }) => row);
          const right =
            model === undefined ? { accepted: null } : decide(model, one.input, one.wire, { store, clock: one.clock });
          const isRecord = typeof one.input === 'object' && one.input !== null;
          yield [one, isRecord ? says(one.input as Raw, right, one) : right] as const;
        }
      },
      close: async () => {},
    }),
  };
}

async function probed(says: Says): Promise<readonly Mismatch[]> {
  const surroundings = { schema, folder: '.', output: '.' };
  const { mismatches } = await probeLayers(cases, { server: serverThat(says) }, surroundings, schema, ledgerOf(schema));
  return mismatches;
}

/** Takes what is told of one rule back, where it is wrong about the value. */
function without(rule: string, isLetIn: (record: Raw) => boolean): Says {
  return (record, right) => {
    if (!('refused' in right) || !isLetIn(record)) return right;
    const rest = right.refused.filter((one) => one.rule !== rule);
    return rest.length > 0 ? { refused: rest } : { accepted: record as never };
  };
}
const refusing = (pointer: string, isRefused: (record: Raw) => boolean): Says => {
  return (record, right) =>
    'accepted' in right && isRefused(record) ? { refused: [{ pointer, rule: null, message: 'No.' }] } : right;
};
const textOf = (value: unknown) => (typeof value === 'string' ? value.trim() : '');

const mistakes: readonly (readonly [mistake: string, says: Says, rule: string, guess: RegExp])[] = [
  [
    'keeps the greatest height out',
    refusing('/height', ({ height }) => height === 90),
    'pot.height.max',
    /^limit tight: max/,
  ],
  ['lets one more in', without('pot.height.max', ({ height }) => height === 91), 'pot.height.max', /^limit loose: max/],
  ['has no limit', without('pot.height.max', () => true), 'pot.height.max', /max is missing/],
  [
    'searches for the pattern',
    without('pot.code.pattern', ({ code }) => /[A-Z]{2}-[0-9]{4}/.test(textOf(code))),
    'pot.code.pattern',
    /^anchors dropped/,
  ],
  [
    'counts UTF-16 units',
    refusing('/name', ({ name }) => textOf(name).length > 20),
    'pot.name.maxLength',
    /^UTF-16 counting/,
  ],
  [
    'takes capitals for a code',
    without('pot.glaze.enumeration', ({ glaze }) => /^(?:ash|slip)$/i.test(String(glaze))),
    'pot.glaze.enumeration',
    /^case ignored/,
  ],
  ['asks for an owner', refusing('/owner', ({ owner }) => textOf(owner) === ''), 'pot.owner.type', /^required added/],
  [
    'is strict where the rule is not',
    refusing('/glaze', ({ height, glaze }) => glaze === 'slip' && height === 40),
    'pot.slipIsLow',
    /^comparison tightened/,
  ],
  [
    'tells the first fault only',
    (_record, right) => ('refused' in right ? { refused: right.refused.slice(0, 1) } : right),
    'pot.type',
    /^first violation only/,
  ],
  [
    'breaks down over what is no text',
    ({ name }, right) =>
      name == null || typeof name === 'string' ? right : { breakdown: 'TypeError: name.trim is not a function' },
    'pot.name.type',
    /what type a value is of/,
  ],
];

describe('a closer look at a disagreement', () => {
  for (const [mistake, says, rule, expected] of mistakes)
    test(`the mistake of one that ${mistake} is guessed`, async () => {
      const mismatches = await probed(says);
      const found = mismatches.find((one) => one.rule === rule);
      assert.match(found?.guess ?? '', expected, JSON.stringify(mismatches.map((one) => [one.rule, one.guess])));
    });

  test('nothing is guessed of what no known mistake accounts for', async () => {
    const [one, ...others] = await probed(refusing('/name', ({ name }) => textOf(name).length % 2 === 0));
    assert.deepEqual([one?.guess, others.length], [null, 0]);
  });

  test('the shortest input is found by asking more: other fields go, and texts lose all that is not needed', async () => {
    const [one] = await probed(refusing('/name', ({ name }) => textOf(name).includes('m')));
    const { name, owner } = (one?.input ?? {}) as Raw;
    assert.equal([...String(name)].length, 3, String(name));
    assert.match(String(name), /m/);
    assert.equal(owner, undefined);
    assert.deepEqual(one?.expected, { accepted: { ...(one?.input as object), owner: null } }, 'judged again');
  });

  test('what differs now and then is told as flaky, with how often', async () => {
    const asked = new Map<unknown, number>();
    const [one] = await probed((record, right) => {
      if ('refused' in right || record.height !== 90) return right;
      const count = (asked.get(record.code) ?? 0) + 1;
      asked.set(record.code, count);
      return count === 1 ? { refused: [{ pointer: '/height', rule: null, message: 'Busy.' }] } : right;
    });
    assert.deepEqual(one?.flaky, { tries: 3, differed: 1 });
    assert.equal(one?.guess, null);
  });

  test('what a rule is compiled to is told with it', async () => {
    const [one] = await probed(refusing('/height', ({ height }) => height === 90));
    assert.equal(one?.mend, 'fails where height > 90');
    assert.equal(one?.flaky, null);
  });
});
