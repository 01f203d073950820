import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { schemaOf } from '../../src/core/declare/index.js';
import { functionProblems } from '../../src/functions/index.js';
import { custom, integer, ruleset } from '../../src/index.js';

const LIMIT = 3;
const halves = { of: (value: number) => value / 2 };

/** What a custom rule's function uses, and the names that a compiled module would not have. */
const functions: readonly (readonly [words: string, code: string | null, holds: (value: number) => boolean])[] = [
  ['its own parameters and names', null, (value) => [value].every((one) => one > Math.floor(0.5))],
  ['a constant of its file', 'function_outside', (value) => value > LIMIT],
  ['a global of some places only', 'function_outside', (value) => value > Number(globalThis.origin)],
  ['what Node has', 'function_outside', (value) => value > process.pid],
  ['a module that it loads', 'function_outside', (value) => value > Number(import('node:os'))],
  ['no text: it is bound', 'function_unread', ((value: number) => value > halves.of(2)).bind(null)],
];

describe('the functions of custom rules', () => {
  for (const [words, code, holds] of functions)
    test(`one that uses ${words}: ${code ?? 'compiled'}`, () => {
      const cup = ruleset('cup', {
        fields: { height: integer() },
        rules: (it) => ({ own: custom([it.height], holds) }),
      });
      const found = functionProblems(schemaOf([cup]));
      assert.deepEqual(
        found.map((problem) => problem.code),
        code === null ? [] : [code],
      );
    });
});
