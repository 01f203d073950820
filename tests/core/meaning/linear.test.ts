import assert from 'node:assert/strict';
import { join } from 'node:path';
import { after, describe, test } from 'node:test';
import { pathToFileURL } from 'node:url';
import { schemaOf } from '../../../src/core/declare/index.js';
import { decide } from '../../../src/core/meaning/index.js';
import type { Row } from '../../../src/core/model/index.js';
import { integer, list, record, ruleset, text } from '../../../src/index.js';
import { compiled } from '../../fixtures/project.js';
import { modelIn } from '../../fixtures/schema.js';
import { stepsOf } from '../../fixtures/steps.js';

const parcel = ruleset('parcel', {
  key: 'code',
  fields: {
    code: text({ maxLength: 9 }),
    words: text({ unicode: 'NFC', optional: true }),
    tags: list(text({ maxLength: 12 }), { distinct: true }),
    numbers: list(integer()),
    parts: list(record({ what: text({ maxLength: 12 }), count: integer({ min: 1 }) }), { key: 'what' }),
  },
  rules: (it) => ({ few: it.parts.sum((one) => one.count).isAtMost(1_000_000) }),
});
const schema = schemaOf([parcel]);
const model = modelIn(schema, 'parcel');
const here = compiled(schema);

interface Given {
  readonly input: unknown;
  readonly partial?: boolean;
  readonly existing?: Row;
  readonly wire?: 'json' | 'form';
}
type Check = (given: Given) => unknown;

const reference: Check = ({ input, partial = false, existing = null, wire = 'json' }) =>
  decide(model, input, wire, { partial, existing });

const many = <T>(count: number, of: (index: number) => T): readonly T[] =>
  Array.from({ length: count }, (_, index) => of(index));
const part = (index: number) => ({ what: `p${index}`, count: 1 });

/** What grows, by its size. */
const growing: readonly (readonly [what: string, given: (size: number) => Given])[] = [
  ['distinct entries', (size) => ({ input: { code: 'a', tags: many(size, (at) => `t${at}`) } })],
  ['entries that repeat', (size) => ({ input: { code: 'a', tags: many(size, () => 't') } })],
  ['entries that are refused', (size) => ({ input: { code: 'a', tags: many(size, () => 7) } })],
  ['records with a key', (size) => ({ input: { code: 'a', parts: many(size, part) } })],
  [
    'a partial update of records with a key',
    (size) => ({
      input: { parts: many(size, (at) => ({ what: `p${size - at}`, count: 2 })) },
      partial: true,
      existing: { code: 'a', words: null, tags: [], numbers: [], parts: many(size, part) },
    }),
  ],
  [
    'one name of a form, many times',
    (size) => ({ input: { code: 'a', tags: many(size, (at) => `t${at}`) }, wire: 'form' }),
  ],
  [
    'names of a form with numbers',
    (size) => ({
      input: { code: 'a', ...Object.fromEntries(many(size, (at) => [`numbers[${at}]`, `${at}`] as const)) },
      wire: 'form',
    }),
  ],
  [
    'keys that nobody declared',
    (size) => ({ input: Object.fromEntries(many(Math.min(size, 900), (at) => [`k${at}`, 1])) }),
  ],
];

const SIZE = 220;
/** So many times as much comes in then; steps that grow with the square would be the square of it as many. */
const GROWTH = 4;

describe('a check takes a time that grows no faster than what came in', () => {
  after(here.remove);
  const url = pathToFileURL(join(here.folder, 'javascript/parcel.js')).href;
  const layers: readonly (readonly [name: string, isOf: (url: string) => boolean, check: () => Promise<Check>])[] = [
    ['the meaning', (script) => script.includes('/src/core/'), async () => reference],
    [
      'the module',
      (script) => script.startsWith(url),
      async () => {
        const { check } = await import(url);
        return ({ input, ...how }) => check(input, how);
      },
    ],
  ];
  for (const [name, isOf, load] of layers)
    for (const [what, given] of growing)
      test(`${name}: ${what}`, async () => {
        const check = await load();
        const [some, more] = [given(SIZE), given(GROWTH * SIZE)];
        check(some);
        const steps = await stepsOf(() => check(some), isOf);
        const grown = await stepsOf(() => check(more), isOf);
        assert.ok(steps > SIZE / 2, `${steps} steps are counted`);
        assert.ok(grown < 1.5 * GROWTH * steps, `${steps} steps, and ${grown} for ${GROWTH} times as much`);
      });

  test('marks in succession are refused before they are sorted: 30 are read, 31 are not', async () => {
    const { check } = await import(url);
    for (const [count, isRead] of [
      [30, true],
      [31, false],
      [900_000, false],
    ] as const) {
      const input = { code: 'a', words: `e${'\u0315\u0300'.repeat(count).slice(0, count)}` };
      const verdict = decide(model, input, 'json');
      const answer = check(input);
      assert.equal('accepted' in verdict, isRead, `${count} in the meaning`);
      assert.equal(answer.ok, isRead, `${count} in the module`);
      if ('refused' in verdict) {
        assert.deepEqual(
          verdict.refused.map(({ rule, pointer }) => [rule, pointer]),
          [['parcel.limits', '/words']],
        );
        assert.deepEqual(answer.violations, verdict.refused);
      } else assert.deepEqual(answer.value, verdict.accepted);
    }
  });
});
