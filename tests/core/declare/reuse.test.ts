import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import {
  extend,
  type HandlesOf,
  integer,
  join,
  type Problem,
  ProblemError,
  reference,
  rule,
  ruleset,
  text,
  validator,
} from 'echo-rule';

/** A bundle of fields with its rules, as a project would export it. */
const sizes = { width: integer({ min: 1 }), height: integer({ min: 1 }) };
const sizeRules = (it: HandlesOf<typeof sizes>) => ({
  notTooLarge: rule({ holds: it.width.times(it.height).isAtMost(100), blame: it.width, message: 'Too large.' }),
});
const names = { name: text({ maxLength: 9 }) };
const board = ruleset('board', { key: 'name', fields: join(sizes, names), rules: (it) => sizeRules(it) });

function problemsIn(make: () => unknown): readonly Problem[] {
  try {
    make();
  } catch (error) {
    if (error instanceof ProblemError) return error.problems;
    throw error;
  }
  return [];
}

describe('reuse', () => {
  test('bundles of fields are joined, and their rules come with them', () => {
    const checked = validator(board).check({ name: 'x', width: 20, height: 6 });
    assert.deepEqual(checked, {
      ok: false,
      violations: [{ pointer: '/width', rule: 'board.notTooLarge', message: 'Too large.' }],
    });
  });

  test('a ruleset extended by another: fields added and changed, rules and key kept, the base as it was', () => {
    const tray = extend(board, 'tray', {
      add: { depth: integer({ optional: true }) },
      change: { name: text({ maxLength: 3 }) },
      rules: (it) => ({ deep: it.depth.isLessThan(it.width) }),
    });
    const checked = validator(tray).check({ name: 'long', width: 20, height: 6, depth: 30 });
    const rules = checked.ok ? [] : checked.violations.map(({ rule: id }) => id);
    assert.deepEqual(rules, ['tray.name.maxLength', 'tray.notTooLarge', 'tray.deep']);
    assert.equal(tray.key, 'name');
    assert.ok(validator(board).check({ name: 'long', width: 2, height: 6 }).ok, 'the base is as it was');
  });

  const wrong: readonly (readonly [code: string, make: () => unknown, said: RegExp])[] = [
    ['name_repeated', () => join(sizes, { width: text() } as never), /"width" is in both/],
    [
      'extension_gone',
      () => extend(board, 'tray', { change: { depth: text() } as never }),
      /changes the field "depth", which board hasn't got/,
    ],
    ['extension_twice', () => extend(board, 'tray', { add: { width: text() } }), /adds the field "width"/],
    [
      'name_repeated',
      () => extend(board, 'tray', { rules: (it) => ({ notTooLarge: it.width.given() }) }),
      /"notTooLarge"/,
    ],
    [
      'handle_unknown',
      () =>
        ruleset('x', {
          fields: names,
          rules: (it) => ({ a: (it as unknown as { size: HandlesOf<typeof names>['name'] }).size.given() }),
        }),
      /a field "size"/,
    ],
    [
      'default_broken',
      () => ruleset('x', { fields: { a: text({ case: 'lower', default: 'Clay' }) } }),
      /default of a, "Clay", is no text in canonical form/,
    ],
    [
      'derived_missing',
      () => ruleset('x', { fields: { a: text({ generated: 'derived' }) } }),
      /nothing says what it is worked out by/,
    ],
    [
      'derived_unmarked',
      () => ruleset('x', { fields: { a: text(), b: text() }, derived: (it) => ({ b: it.a.slug() }) }),
      /not a field that is declared so/,
    ],
    ['zone_unknown', () => ruleset('x', { fields: names, zone: 'Atlantis/Capital' }), /Atlantis/],
    [
      'secret_holder',
      () => ruleset('x', { fields: { a: text({ secret: { storedAs: 'b', by: (typed) => typed } }), b: text() } }),
      /only the database has/,
    ],
    [
      'facets_clash',
      () => ruleset('x', { fields: { a: reference(board, { onDelete: 'clear' }) } }),
      /nothing may be left behind/,
    ],
    [
      'facets_clash',
      () => ruleset('x', { fields: { a: text({ collapse: true, lines: 'many' }) } }),
      /take the line ends away/,
    ],
  ];
  for (const [code, make, said] of wrong) {
    test(code, () => {
      const [problem] = problemsIn(make);
      assert.equal(problem?.code, code);
      assert.match(problem?.message ?? '', said);
      assert.ok((problem?.mend ?? '').length > 10, 'it says how to mend it');
    });
  }
});
