import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { visible } from '../../src/agreement/index.js';
import type { Fidelities } from '../../src/agreement/judge.js';
import { judgeAnswer } from '../../src/agreement/judge-answer.js';
import type { Answer, Case, Verdict } from '../../src/core/model/index.js';
import type { Layer } from '../../src/layers/layer.js';
import { modelIn, studio } from '../fixtures/schema.js';

const model = modelIn(studio, 'kiln');
const row = { code: 'K01', name: 'Old Smoky', hottest: 1200 };
const broken = (...rules: readonly string[]): Extract<Verdict, { refused: unknown }> => ({
  refused: rules.map((rule) => ({ pointer: `/${rule.split('.')[0]}`, rule: `kiln.${rule}`, message: '' })),
  possibly: [],
});
const blames = (...told: readonly (readonly [pointer: string | null, rule: string | null])[]): Answer => ({
  refused: told.map(([pointer, rule]) => ({ pointer, rule: rule === null ? null : `kiln.${rule}`, message: '' })),
});
const all: Layer['can'] = {
  store: false,
  allViolations: true,
  wires: ['json'],
  does: ['insert'],
  on: ['server'],
  convertsFirst: false,
};
const table: Layer['can'] = {
  store: true,
  allViolations: false,
  wires: ['row'],
  does: ['insert'],
  on: ['server'],
  convertsFirst: true,
};
const fidelities: Fidelities = new Map([
  ['kiln.name.type', { is: 'altering', why: 'numbers become text' }],
  ['kiln.name.lines', { is: 'absent', why: 'not said here' }],
  ['kiln.code.unique', { is: 'absent', why: 'look-up', needs: 'store' }],
] as const);

const cases: readonly (readonly [
  what: string,
  expected: Verdict,
  can: Layer['can'],
  answer: Answer,
  judged: string,
])[] = [
  ['the same value', { accepted: row }, all, { accepted: { ...row } }, 'agrees'],
  ['another value', { accepted: row }, all, { accepted: { ...row, name: 'Old Smoky ' } }, 'altered'],
  ['success, and nothing stored', { accepted: row }, table, { accepted: {} }, 'altered'],
  ['refuses what is allowed', { accepted: row }, all, blames(['/name', null]), 'verdict'],
  ['accepts what is not', broken('hottest.max'), all, { accepted: row }, 'verdict'],
  ['accepts what the ledger says it can not hold', broken('name.lines'), all, { accepted: row }, 'known verdict'],
  [
    'alters into something allowed, as the ledger tells',
    broken('name.type'),
    table,
    { accepted: row },
    'known verdict',
  ],
  [
    'keeps what is not allowed, which the ledger does not tell',
    broken('name.type'),
    table,
    { accepted: { ...row, hottest: 5000 } },
    'verdict',
  ],
  ['a look-up that it does not know', broken('code.unique'), all, { accepted: row }, 'agrees'],
  [
    'a refusal where only a look-up it does not know is broken',
    broken('code.unique'),
    all,
    blames(['/code', null]),
    'verdict',
  ],
  ['a look-up that it does know', broken('code.unique'), table, { accepted: row }, 'verdict'],
  ['the right rule', broken('hottest.max'), all, blames(['/hottest', 'hottest.max']), 'agrees'],
  ['the right field without a rule', broken('hottest.max'), all, blames(['/hottest', null]), 'agrees'],
  ['the wrong field', broken('hottest.max'), all, blames(['/name', null]), 'blame'],
  ['the wrong rule', broken('hottest.max'), all, blames(['/hottest', 'hottest.min']), 'blame'],
  ['one rule too many', broken('hottest.max'), all, blames(['/hottest', 'hottest.max'], ['/name', null]), 'blame'],
  [
    'one of two, though it tells all',
    broken('hottest.max', 'code.pattern'),
    all,
    blames(['/hottest', 'hottest.max']),
    'blame',
  ],
  [
    'one of two from a table',
    broken('hottest.max', 'code.pattern'),
    table,
    blames(['/code', 'code.pattern']),
    'agrees',
  ],
  ['a table without a name', broken('hottest.max'), table, { refused: [] }, 'agrees'],
  [
    'a mistyped value that the engine turned into another',
    broken('name.type'),
    table,
    blames(['/name', 'name.minLength']),
    'agrees',
  ],
  [
    'an untold look-up behind a fault',
    { refused: broken('code.pattern').refused, possibly: broken('code.unique').refused },
    table,
    blames(['/code', 'code.pattern']),
    'agrees',
  ],
  [
    'a told look-up behind a fault',
    { refused: broken('code.pattern').refused, possibly: broken('code.unique').refused },
    table,
    blames(['/code', 'code.unique']),
    'agrees',
  ],
  ['an unhandled error', broken('hottest.max'), all, { breakdown: 'TypeError' }, 'breakdown'],
  [
    'refused, and stored',
    broken('hottest.max'),
    table,
    { ...blames(['/hottest', 'hottest.max']), residue: 'a row' } as Answer,
    'residue',
  ],
  ['broken down, and stored', { accepted: row }, table, { breakdown: 'lost', residue: 'a row' }, 'residue'],
  ['not for this layer', { accepted: row }, all, { notApplicable: 'no such wire' }, 'not applicable'],
];

describe('the judge', () => {
  for (const [what, expected, can, answer, judged] of cases) {
    test(`${what}: ${judged}`, () => {
      const about: Case = {
        id: 'x',
        ruleset: 'kiln',
        constraint: 'kiln.type',
        criterion: 'edges',
        reason: '',
        does: 'insert',
        on: 'server',
        existing: null,
        wire: 'json',
        clock: { instant: '2026-03-02T09:00:00Z', zone: 'UTC' },
        before: [],
        input: row,
        expected,
      };
      const layer: Layer = {
        kind: 'x',
        target: 'javascript',
        rulesets: null,
        compiled: true,
        can,
        open: () => Promise.reject(new Error('closed')),
      };
      const result = judgeAnswer({ case: about, layer: 'x', answer }, layer, fidelities, model);
      const difference = typeof result === 'string' || 'tolerated' in result ? null : result;
      const words = difference === null ? result : `${difference.known ? 'known ' : ''}${difference.kind}`;
      assert.equal(words, judged);
    });
  }

  test('what can not be seen is written as escapes', () => {
    assert.equal(visible(' a\u00a0b\ufeff\ufffd\r\n'), '" a\\u00a0b\\ufeff\\ufffd\\r\\n"');
    assert.equal(visible(undefined), 'missing');
  });
});
