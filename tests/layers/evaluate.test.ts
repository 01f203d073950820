import assert from 'node:assert/strict';
import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { describe, test } from 'node:test';
import { isValid, type SchemaNode } from '../../src/layers/documents/evaluate.js';

/** The suite as the registry has it: its fourth draft, whose keywords of these names mean what they mean in 2020-12. */
const suite = join(
  dirname(createRequire(import.meta.url).resolve('json-schema-test-suite/package.json')),
  'tests/draft4',
);

interface Group {
  readonly description: string;
  readonly schema: SchemaNode;
  readonly tests: readonly { readonly description: string; readonly data: unknown; readonly valid: boolean }[];
}

/** What changed since, or is no keyword that is written here. */
const PASSED_OVER: readonly (readonly [file: string, group: RegExp, why: string])[] = [
  ['items.json', /array of schemas|with additionalItems/, 'a list of schemas is prefixItems now'],
  ['maximum.json', /exclusiveMaximum/, 'a limit of its own now'],
  ['minimum.json', /exclusiveMinimum/, 'a limit of its own now'],
  ['ref.json', /remote|definitions|overrid/, 'schemas elsewhere'],
];

const conditional: SchemaNode = JSON.parse(
  '{"if": {"type": "string"}, "then": {"minLength": 2}, "else": {"minimum": 2}}',
);

/** Keywords whose meaning 2020-12 says and the fourth draft does not: sections 6.1.3, 6.2 and 10 of the standard. */
const newer: readonly (readonly [schema: SchemaNode, value: unknown, valid: boolean])[] = [
  [{ const: { a: 1, b: [2] } }, { b: [2], a: 1 }, true],
  [{ const: 1 }, '1', false],
  [{ const: null }, null, true],
  [{ contains: { minimum: 5 } }, [3, 5], true],
  [{ contains: { minimum: 5 } }, [3, 4], false],
  [{ contains: { minimum: 5 } }, [], false],
  [{ contains: { minimum: 5 } }, 'no list', true],
  [{ exclusiveMinimum: 1.1 }, 1.2, true],
  [{ exclusiveMinimum: 1.1 }, 1.1, false],
  [{ exclusiveMaximum: 3 }, 2.9, true],
  [{ exclusiveMaximum: 3 }, 3, false],
  [conditional, 'a', false],
  [conditional, 'ab', true],
  [conditional, 1, false],
  [conditional, 2, true],
  [{ $ref: '#/$defs/a~1b', $defs: { 'a/b': { type: 'null' } } }, null, true],
  [{ $ref: '#/$defs/a~1b', $defs: { 'a/b': { type: 'null' } } }, 0, false],
  [{ properties: { a: false } }, { a: 1 }, false],
];

describe('our evaluator beside the published suite of JSON Schema', () => {
  const seen = new Set<string>();
  for (const file of readdirSync(suite).filter((name) => name.endsWith('.json'))) {
    const groups = JSON.parse(readFileSync(join(suite, file), 'utf8')) as readonly Group[];
    for (const { description, schema, tests } of groups) {
      if (PASSED_OVER.some(([name, group]) => name === file && group.test(description))) continue;
      for (const one of tests) {
        let found: boolean;
        try {
          found = isValid(schema, one.data);
        } catch (error) {
          // A keyword that nothing here writes, or a schema elsewhere.
          if (/is not evaluated|leads (?:out|nowhere)/.test(String(error))) continue;
          throw error;
        }
        seen.add(file.replace('.json', ''));
        test(`${file}: ${description}: ${one.description}`, () => assert.equal(found, one.valid));
      }
    }
  }

  test('every keyword of the suite that is written here is among them', () => {
    const written =
      'additionalProperties allOf anyOf enum items maxItems maxLength maximum minItems minLength minimum multipleOf not oneOf pattern properties ref required type uniqueItems';
    assert.deepEqual([...seen].filter((name) => written.split(' ').includes(name)).sort(), written.split(' '));
  });

  for (const [schema, value, valid] of newer)
    test(`${JSON.stringify(schema)} of ${JSON.stringify(value)}`, () => assert.equal(isValid(schema, value), valid));

  test('a keyword that is not evaluated is an error, never passed over', () => {
    assert.throws(() => isValid({ patternProperties: {} }, {}), /patternProperties is not evaluated/);
  });
});
