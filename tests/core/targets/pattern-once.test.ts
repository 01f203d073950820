import assert from 'node:assert/strict';
import { test } from 'node:test';
import { ruleset, text } from '../../../src/index.js';
import { loadedCheck } from '../../fixtures/echo.js';

const bell = ruleset('bell', {
  fields: {
    tone: text({ pattern: /[A-G][0-9]{2}/ }),
    frame: text({ pattern: /[a-z]+(?:-[a-z]+)*/, maxLength: 12 }),
    maker: text({ pattern: /[A-Z]{2,}/, case: 'upper', optional: true }),
  },
});

/** The texts that the patterns of the ruleset are held against, each as often as it is. */
async function matched(record: object): Promise<readonly string[]> {
  const check = await loadedCheck(bell);
  const { test: own } = RegExp.prototype;
  const texts: string[] = [];
  RegExp.prototype.test = function (this: RegExp, value: string) {
    if (this.source.startsWith('^(?:[')) texts.push(value);
    return own.call(this, value);
  };
  try {
    check(record, { wire: 'json', on: 'server', clock: { instant: '2026-03-02T09:00:00Z' } });
  } finally {
    RegExp.prototype.test = own;
  }
  return texts;
}

const tables: readonly (readonly [what: string, record: object, texts: readonly string[]])[] = [
  ['of a record that is accepted', { tone: 'A12', frame: 'oak', maker: 'BELL' }, ['A12', 'oak', 'BELL']],
  ['of texts that do not fit', { tone: 'H12', frame: 'Oak' }, ['H12', 'Oak']],
  [
    'of a text with white space around it, as it came and without',
    { tone: ' H12', frame: 'oak' },
    [' H12', 'H12', 'oak'],
  ],
  ['of a text that is too long, not at all', { tone: 'A12', frame: 'a'.repeat(13) }, ['A12']],
];
for (const [what, record, texts] of tables)
  test(`${what}: the patterns are matched once a text`, async () => assert.deepEqual(await matched(record), texts));
