import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { schemaOf } from '../../../src/core/declare/index.js';
import { problemsOf } from '../../../src/core/messages/index.js';
import { choice, date, integer, reference, rule, ruleset, text, unique } from '../../../src/index.js';

/** The codes of the problems that a declaration is refused for, and what was said. */
function refusal(
  declare: () => unknown,
): readonly { code: string; message: string; mend: string; file: string; line: number }[] {
  try {
    declare();
  } catch (error) {
    const found = problemsOf(error);
    if (found === null) throw error;
    return found.map(({ code, message, mend, place }) => ({
      code,
      message,
      mend,
      file: place?.file ?? '',
      line: place?.line ?? 0,
    }));
  }
  return [];
}

/** Declarations as a caller without types may write them. */
const loose = ruleset as (name: string, declaration: object) => ReturnType<typeof ruleset>;
const plain = { a: text() };
type It = { readonly [field: string]: never };

const table: readonly (readonly [what: string, declare: () => unknown, ...codes: string[]])[] = [
  ['a name with an accent', () => loose('größe', { fields: plain }), 'name_invalid'],
  ['an empty name', () => loose('', { fields: plain }), 'name_invalid'],
  ['a field name that begins with an underscore', () => loose('x', { fields: { _a: text() } }), 'name_invalid'],
  ['a field name that ends with one', () => loose('x', { fields: { a_: text() } }), 'name_invalid'],
  ['a field name with two of them', () => loose('x', { fields: { a__b: text() } }), 'name_invalid'],
  ['a field name with a hyphen', () => loose('x', { fields: { 'a-b': text() } }), 'name_invalid'],
  [
    'a field called __proto__',
    () => loose('x', { fields: JSON.parse('{"__proto__":null}') && Object.fromEntries([['__proto__', text()]]) }),
    'name_invalid',
  ],
  ['no fields', () => loose('x', { fields: {} }), 'fields_empty'],
  [
    'two fields that meet in one column',
    () => loose('x', { fields: { aB: text(), b: text({ column: 'a_b' }) } }),
    'names_meet',
  ],
  [
    'columns that differ in case only',
    () => loose('x', { fields: { a: text({ column: 'Tag' }), b: text({ column: 'tag' }) } }),
    'names_meet',
  ],
  ['a field that meets the counting key', () => loose('x', { fields: { id: integer() } }), 'names_meet'],
  [
    'a rule that meets a facet',
    () =>
      loose('x', { fields: { a: text({ maxLength: 3 }) }, rules: (it: It) => ({ aMaxLength: unique(it.a as never) }) }),
    'names_meet',
  ],
  ['a column that no database takes', () => loose('x', { fields: { a: text({ column: '' }) } }), 'column_invalid'],
  [
    'a column that PostgreSQL would cut',
    () => loose('x', { fields: { a: text({ column: 'é'.repeat(32) }) } }),
    'column_invalid',
  ],
  ['a table with a null character', () => loose('x', { table: 'a\0b', fields: plain }), 'column_invalid'],
  [
    'a pattern that is not valid under u',
    () => loose('x', { fields: { a: text({ pattern: /a{,3}/ }) } }),
    'pattern_invalid',
  ],
  ['a pattern with flag g', () => loose('x', { fields: { a: text({ pattern: /a/g }) } }), 'pattern_flags'],
  ['a pattern that is text', () => loose('x', { fields: { a: text({ pattern: 'a' as never }) } }), 'facet_invalid'],
  [
    'a length below zero and one that is no number',
    () => loose('x', { fields: { a: text({ minLength: -1, maxLength: '3' as never }) } }),
    'facet_invalid',
    'facet_invalid',
  ],
  ['a limit beyond the safe integers', () => loose('x', { fields: { a: integer({ max: 2 ** 53 }) } }), 'facet_invalid'],
  ['a date that is no day', () => loose('x', { fields: { a: date({ min: '2026-02-29' }) } }), 'facet_invalid'],
  [
    'an option that the kind has not',
    () => loose('x', { fields: { a: integer({ minLength: 2 } as never) } }),
    'option_unknown',
  ],
  ['a choice without choices', () => loose('x', { fields: { a: choice({}) } }), 'facet_invalid'],
  [
    'number-like, empty and padded codes',
    () => choice({ 1: 'One', '': 'None', ' a': 'A' }),
    'choice_code',
    'choice_code',
    'choice_code',
  ],
  ['a key that is no field', () => loose('x', { key: 'b', fields: plain }), 'key_unknown'],
  ['a key that is optional', () => loose('x', { key: 'a', fields: { a: text({ optional: true }) } }), 'key_optional'],
  ['a called that is no field', () => loose('x', { called: 'b', fields: plain }), 'key_unknown'],
  ['a reference by name without a kind', () => reference('y', { optional: true } as never), 'reference_unkeyed'],
  ['a reference to a ruleset without key', () => reference(ruleset('y', { fields: plain })), 'reference_keyless'],
  [
    'a rule with a reserved name',
    () => loose('x', { fields: plain, rules: (it: It) => ({ keys: unique(it.a as never) }) }),
    'name_reserved',
  ],
  ['a rule that is no expression', () => loose('x', { fields: plain, rules: () => ({ r: true }) }), 'rule_shape'],
  ['a rule that is nothing', () => loose('x', { fields: plain, rules: () => ({ r: null }) }), 'rule_shape'],
  [
    'a rule that blames a field it does not mention',
    () =>
      ruleset('x', {
        fields: { a: integer(), b: integer() },
        rules: (it) => ({ r: rule({ holds: it.a.isMoreThan(1), blame: it.b }) }),
      }),
    'blame_unmentioned',
  ],
  [
    "a rule over another ruleset's field",
    () => {
      let stolen: unknown;
      ruleset('y', {
        fields: { c: integer() },
        rules: (it) => {
          const r = it.c.isMoreThan(1);
          stolen = r;
          return { r };
        },
      });
      return loose('x', { fields: plain, rules: () => ({ r: stolen }) });
    },
    'rule_foreign',
  ],
  [
    'two rulesets of one name',
    () => schemaOf([ruleset('x', { fields: plain }), ruleset('x', { table: 'y', fields: plain })]),
    'ruleset_twice',
  ],
  [
    'two rulesets in one table',
    () => schemaOf([ruleset('x', { fields: plain }), ruleset('y', { table: 'X', fields: plain })]),
    'names_meet',
  ],
  [
    'indexes of two rulesets that meet',
    () =>
      schemaOf([
        ruleset('kiln', { fields: { a: text() }, rules: (it) => ({ tagOnce: unique(it.a) }) }),
        ruleset('kilnTag', { fields: { a: text() }, rules: (it) => ({ once: unique(it.a) }) }),
      ]),
    'names_meet',
  ],
  [
    'checks of two tables may have one name',
    () => schemaOf([ruleset('kiln', { fields: { tagA: text() } }), ruleset('kilnTag', { fields: { a: text() } })]),
  ],
  [
    'a reference to a ruleset that is not given',
    () => {
      const kiln = ruleset('kiln', { key: 'code', fields: { code: text() } });
      return schemaOf([ruleset('firing', { fields: { kiln: reference(kiln) } })]);
    },
    'reference_unknown',
  ],
];

describe('a declaration that can not mean anything is refused', () => {
  for (const [what, declare, ...codes] of table) {
    test(what, () => {
      const told = refusal(declare);
      assert.deepEqual(
        told.map(({ code }) => code),
        codes,
      );
      for (const { message, mend, file, line } of told) {
        assert.match(message, /\.$/);
        assert.match(mend, /\.$/);
        assert.match(file, /problems\.test\.ts$/);
        assert.ok(line > 20, `a line of this file, not ${line}`);
      }
    });
  }

  test('all problems of a ruleset are told together', () => {
    const told = refusal(() =>
      loose('x', { fields: { a: text({ minLength: -1 }), b: integer({ min: 0.5 }), 'c-d': text() } }),
    );
    assert.deepEqual(
      told.map(({ code }) => code),
      ['facet_invalid', 'facet_invalid', 'name_invalid'],
    );
  });

  test('rules that contradict each other load: that is for a review to tell', () => {
    assert.deepEqual(
      refusal(() => ruleset('x', { fields: { a: integer({ min: 5, max: 1 }) } })),
      [],
    );
  });
});
