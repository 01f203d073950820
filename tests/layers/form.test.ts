import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import { readForm } from '../../src/layers/form/controls.js';
import { fill } from '../../src/layers/form/fill.js';
import { suffersFrom } from '../../src/layers/form/validity.js';
import { formLayer } from '../../src/layers/index.js';
import { temporaryFolder } from '../fixtures/project.js';
import { modelIn, studio } from '../fixtures/schema.js';

/** What the one named control of a form does with a text: what it sends, what it suffers from, or that it can't hold it. */
function enter(markup: string, text: string): string {
  const [control] = readForm(`<form>${markup}</form>`)?.controls ?? [];
  assert.ok(control, markup);
  const filled = fill(control, text);
  if ('cannotHold' in filled) return 'cannot hold';
  return suffersFrom(control, filled.holds) ?? `sends ${JSON.stringify(filled.sends)}`;
}

const list =
  '<select name="a" required><option value="">choose</option><option>x  y</option><option value="z" disabled>Z</option></select>';
/** Measured in a real browser, or read in the HTML standard. */
const table: readonly (readonly [markup: string, text: string, result: string])[] = [
  ['<input name=a required>', '', 'valueMissing'],
  ['<input name=a required>', '   ', 'sends "   "'],
  ['<input name=a>', 'a\nb', 'cannot hold'],
  ['<input name=a type=nonsense>', 'x', 'sends "x"'],
  ['<input name=a maxlength=4>', '😀😀', 'sends "😀😀"'],
  ['<input name=a maxlength=3>', '😀😀', 'tooLong'],
  ['<input name=a minlength=5>', '😀😀', 'tooShort'],
  ['<input name=a minlength=5>', '', 'sends ""'],
  ['<input name=a maxlength=abc>', 'long enough', 'sends "long enough"'],
  ['<input name=a pattern="a|b">', 'ab', 'patternMismatch'],
  ['<input name=a pattern="[a-z-]+">', '9', 'sends "9"'],
  ['<input name=a pattern="a)|(b">', 'zzz', 'sends "zzz"'],
  ['<input name=a pattern="\\d+">', '٣', 'patternMismatch'],
  ['<input name=a pattern="x" readonly>', 'y', 'sends "y"'],
  ['<textarea name=a pattern=x maxlength=3></textarea>', 'a\r\nb', 'sends "a\\r\\nb"'],
  ['<textarea name=a maxlength=3></textarea>', 'a\nbc', 'tooLong'],
  ['<input name=a type=number min=1 max=40>', '0', 'rangeUnderflow'],
  ['<input name=a type=number min=1 max=40>', '41', 'rangeOverflow'],
  ['<input name=a type=number>', '1.5', 'stepMismatch'],
  ['<input name=a type=number step=any>', '1.5', 'sends "1.5"'],
  ['<input name=a type=number step=.1>', '0.3', 'sends "0.3"'],
  ['<input name=a type=number>', '1e1', 'sends "1e1"'],
  ['<input name=a type=number>', '007', 'sends "007"'],
  ['<input name=a type=number>', '1,5', 'cannot hold'],
  ['<input name=a type=date min=2024-01-01>', '2023-12-31', 'rangeUnderflow'],
  ['<input name=a type=date>', '2023-02-29', 'cannot hold'],
  ['<input name=a type=date required>', '', 'valueMissing'],
  ['<input name=a type=email>', ' a@b.c ', 'sends "a@b.c"'],
  ['<input name=a type=email>', 'a@b..c', 'typeMismatch'],
  ['<input name=a type=url>', 'www.a.b', 'typeMismatch'],
  ['<input name=a type=checkbox required>', 'false', 'valueMissing'],
  ['<input name=a type=checkbox>', 'true', 'sends "on"'],
  ['<input name=a type=checkbox value=yes>', 'yes', 'sends "yes"'],
  ['<input name=a type=checkbox>', 'maybe', 'cannot hold'],
  ['<input name=a type=range>', '5', 'cannot hold'],
  ['<input name=a type=hidden value=7 required>', 'x', 'sends "7"'],
  [list, '', 'valueMissing'],
  [list, 'x y', 'sends "x y"'],
  [list, 'z', 'cannot hold'],
  ['<select name=a required><option>first</option></select>', '', 'sends "first"'],
  ['<select name=a required><option>x</option><option value=""></option></select>', '', 'sends ""'],
];

describe('a form judged by its attributes', () => {
  for (const [markup, text, result] of table) {
    test(`${markup} with ${JSON.stringify(text)}: ${result}`, () => assert.equal(enter(markup, text), result));
  }

  test('the form with named controls is read; disabled ones are not there; novalidate is told', () => {
    const form = readForm(
      '<form><button>go</button></form><form novalidate><input name=a><input name=b disabled></form>',
    );
    assert.deepEqual(
      form?.controls.map(({ name }) => name),
      ['a'],
    );
    assert.equal(form?.unchecked, true);
    assert.equal(readForm('<p>no form</p>'), null);
  });
});

describe('a form that lacks controls', () => {
  test('is judged on those that it has; a required field that it lacks is told', async () => {
    const { folder, remove } = temporaryFolder({
      'kiln.html': '<form><input name=code required pattern="\\s*K[0-9]{2}\\s*"><input name=name></form>',
    });
    const schema = studio.filter(({ ruleset }) => ruleset === 'kiln');
    const layers = { form: formLayer({ files: { kiln: 'kiln.html' } }) };
    const answered = await askAll(casesFor(modelIn(schema, 'kiln'), schema), layers, {
      schema,
      folder,
      output: folder,
    });
    remove();
    const { mismatches, byRule } = summarise(answered, layers, schema, ledgerOf(schema));
    assert.deepEqual(
      mismatches.map(({ rule, kind }) => `${rule} ${kind}`),
      [
        'kiln.name.required verdict',
        'kiln.hottest.required verdict',
        'kiln.name.minLength verdict',
        'kiln.name.maxLength verdict',
        'kiln.name.type verdict',
      ],
    );
    assert.equal(byRule.find(({ rule }) => rule === 'kiln.code.pattern')?.status, 'tested');
  });
});
