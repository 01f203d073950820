import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import fc from 'fast-check';
import { compile } from '../../../src/compile.js';
import { schemaOf } from '../../../src/core/declare/index.js';
import { decide } from '../../../src/core/meaning/index.js';
import {
  accepts,
  automatonOfPattern,
  dangerOf,
  difference,
  isProvedLinear,
  type PatternTree,
  printPattern,
  readPattern,
  safeFormOf,
} from '../../../src/core/reason/index.js';
import { matcherJs } from '../../../src/core/targets/javascript/matchers.js';
import { printJs } from '../../../src/core/targets/javascript/print.js';
import { helpersFor } from '../../../src/core/targets/javascript/runtime/index.js';
import { ruleset, text } from '../../../src/index.js';
import { pattern, texts } from '../../fixtures/patterns.js';
import { randomFrom } from '../../fixtures/random.js';
import { soak } from '../../fixtures/records.js';
import { slowPatterns } from '../../fixtures/slow-patterns.js';

const RUNS = soak ? 5_000 : 300;
const STRINGS = 10_000;

/** A matcher that has looked at so many characters is stopped. */
const MOST_STEPS = 500_000;

type Matcher = { test(text: string): boolean };

/** What a compiled module tests a text with. */
function compiled(source: string, flags = 'u'): Matcher {
  const code = printJs(matcherJs({ source, flags }));
  return new Function(`${helpersFor(code).join('\n')}\nreturn ${code};`)() as Matcher;
}

/** How many characters a matcher looks at that tries one way after another. */
function stepsOf(tree: PatternTree, text: string): number {
  const characters = [...text].map((character) => character.codePointAt(0) ?? 0);
  let steps = 0;
  type Next = (at: number) => boolean;
  const walk = (part: PatternTree, at: number, next: Next): boolean => {
    if (steps > MOST_STEPS) return true;
    if ('one' in part) {
      steps += 1;
      const point = characters[at];
      return point !== undefined && part.one.some(([from, to]) => from <= point && point <= to) && next(at + 1);
    }
    if ('sequence' in part) {
      const from = (index: number): Next => {
        const inner = part.sequence[index];
        return inner === undefined ? next : (place) => walk(inner, place, from(index + 1));
      };
      return from(0)(at);
    }
    if ('either' in part) return part.either.some((inner) => walk(inner, at, next));
    const round = (count: number, place: number): boolean => {
      const more =
        count < part.to && walk(part.repeat, place, (to) => (to > place || count < part.from) && round(count + 1, to));
      return more || (count >= part.from && next(place));
    };
    return round(0, at);
  };
  walk(tree, 0, (at) => at === characters.length);
  return steps;
}

describe('patterns that take too long', () => {
  test(`${slowPatterns.length} known ones: a text is given that makes the steps grow, and the compiled form is safe`, () => {
    assert.ok(slowPatterns.length >= 50, `${slowPatterns.length}`);
    const forms = new Map<string, number>();
    for (const source of slowPatterns) {
      const danger = dangerOf({ source, flags: 'u' });
      if (danger.is !== 'growing') assert.fail(`${source} is ${danger.is}`);
      const { prefix, repeated, suffix, growth } = danger.attack;
      const tree = readPattern({ source, flags: 'u' });
      const steps = (times: number) => stepsOf(tree, prefix + repeated.repeat(times) + suffix);
      const [few, more] = growth === 'exponential' ? [steps(4), steps(12)] : [steps(20), steps(80)];
      // Eight rounds more would double a linear matcher's work twice; four times the rounds, its work four times.
      assert.ok(
        more > MOST_STEPS || more > few * (growth === 'exponential' ? 16 : 8),
        `${source}: ${few} steps become ${more}`,
      );
      const { form } = safeFormOf({ source, flags: 'u' });
      assert.ok(form === 'table' || form === 'tree' || form === 'positions', `${source} has the form ${form}`);
      forms.set(form, (forms.get(form) ?? 0) + 1);
    }
    console.log(
      `${slowPatterns.length} slow patterns: ${[...forms].map(([form, count]) => `${count} as ${form}`).join(', ')}`,
    );
  });

  test(`each of them gives the verdict of its pattern on ${STRINGS} strings`, () => {
    for (const [seed, source] of slowPatterns.entries()) {
      const random = randomFrom(seed + 1);
      const alphabet = [...new Set([...source.replace(/\\[dwspLu]/g, ''), 'a', 'b', 'x', '0', ' ', '!'])].filter(
        (character) => !'^$()[]{}*+?|\\'.includes(character),
      );
      const whole = new RegExp(`^(?:${source})$`, 'u');
      const safe = compiled(source);
      let accepted = 0;
      for (let count = 0; count < STRINGS; count++) {
        const length = random.below(9);
        const text = Array.from({ length }, () => random.pick(alphabet)).join('');
        const expected = whole.test(text);
        accepted += Number(expected);
        if (safe.test(text) !== expected) assert.fail(`${source} on ${JSON.stringify(text)}: should be ${expected}`);
      }
      assert.ok(accepted < STRINGS, `${source} refuses something`);
    }
  });

  test(`${RUNS} random patterns: the compiled form says what the pattern says, and what is proved linear is`, () => {
    let [linear, others] = [0, 0];
    fc.assert(
      fc.property(
        pattern,
        fc.constantFrom('u', 'iu', 'su'),
        fc.array(texts, { minLength: 6, maxLength: 6 }),
        texts,
        (source, flags, list, part) => {
          const whole = new RegExp(`^(?:${source})$`, flags);
          const safe = compiled(source, flags);
          for (const text of list)
            assert.equal(safe.test(text), whole.test(text), `/${source}/${flags} on ${JSON.stringify(text)}`);
          if (!isProvedLinear({ source, flags })) {
            others += 1;
            return;
          }
          linear += 1;
          const tree = readPattern({ source, flags });
          const [few, more] = [8, 64].map((times) => stepsOf(tree, `${part.repeat(times)}!`)) as [number, number];
          assert.ok(more <= few * 16 + 2_000, `${source} on ${JSON.stringify(part)}: ${few} steps become ${more}`);
        },
      ),
      { numRuns: RUNS, seed: 23 },
    );
    assert.ok(linear > RUNS / 4 && others > RUNS / 20, `${linear} proved linear, ${others} not`);
  });

  test('long repeats and long texts: all positions at once say what the automaton says', () => {
    const safe = compiled('[a-c]{3,40}[b-d]{2,50}x', 'u');
    const automaton = automatonOfPattern({ source: '[a-c]{3,40}[b-d]{2,50}x', flags: 'u' });
    const random = randomFrom(3);
    let accepted = 0;
    for (let count = 0; count < 3_000; count++) {
      const [left, right] = [random.below(50), random.below(60)];
      const letters = (from: string, length: number) => Array.from({ length }, () => random.pick([...from])).join('');
      const text = `${letters('abc', left)}${letters('bcd', right)}${random.chance(0.9) ? 'x' : ''}`;
      accepted += Number(safe.test(text));
      assert.equal(safe.test(text), accepts(automaton, text), text);
    }
    assert.ok(accepted > 300, `${accepted} were accepted`);
  });

  test('a pattern beyond every safe form is told, and nothing is made of it; one that the database alone holds is not', () => {
    const huge = /(?:(?:abc?){1,500}){1,500}/;
    assert.throws(
      () => compile([ruleset('x', { fields: { a: text({ pattern: huge }) } })], ['javascript']),
      /The pattern of x\.a\.pattern can't be matched .* \[pattern_too_large\]/,
    );
    const stored = ruleset('x', { fields: { a: text({ pattern: huge, enforcedIn: ['database'] }), b: text() } });
    assert.equal(compile([stored], ['javascript']).files.length, 2);
  });

  test('a pattern with many steps a character needs a maximum length, which is checked before it', async () => {
    const pattern = /(?:[a-z]+ ?){1,255}/u;
    const of = (maxLength?: number) => [
      ruleset('x', { fields: { a: text(maxLength === undefined ? { pattern } : { pattern, maxLength }) } }),
    ];
    for (const maxLength of [undefined, 200])
      assert.throws(() => compile(of(maxLength), ['javascript']), /steps for each character.*\[pattern_too_slow\]/s);
    const [file] = compile(of(100), ['javascript']).files.filter(({ path }) => path.endsWith('.js'));
    const module = await import(`data:text/javascript,${encodeURIComponent(file?.text ?? '')}`);
    const rulesOf = (value: string) =>
      (module.check({ a: value }, { wire: 'json' }).violations ?? []).map(({ rule }: { rule: string }) => rule);
    assert.deepEqual(rulesOf('b'.repeat(100)), []);
    assert.deepEqual(rulesOf('b b\nb'), ['x.a.lines', 'x.a.pattern']);
    assert.deepEqual(rulesOf('\u0001'.repeat(300_000)), ['x.a.maxLength'], 'nothing of the text is held against it');
    const [model] = schemaOf(of(100));
    const verdict = model === undefined ? null : decide(model, { a: `b\n${'b'.repeat(200)}` }, 'json');
    assert.deepEqual(verdict !== null && 'refused' in verdict ? verdict.possibly.map(({ rule }) => rule) : [], [
      'x.a.pattern',
    ]);
  });

  test('a pattern that reads texts in several ways is written as an equal one that reads them in one', () => {
    const source = '([^\\s].+[^\\s]){1,255}';
    const safe = safeFormOf({ source, flags: 'u' });
    assert.ok(safe.form === 'tree', safe.form);
    const equal = printPattern(safe.tree);
    assert.ok(isProvedLinear({ source: equal, flags: 'u' }), equal);
    const [asWritten, asMade] = [source, equal].map((one) => automatonOfPattern({ source: one, flags: 'u' }));
    assert.ok(asWritten !== undefined && asMade !== undefined, 'both have automata');
    assert.equal(difference(asWritten, asMade), null);
    const files = compile(
      [ruleset('x', { fields: { a: text({ pattern: new RegExp(source, 'u') }) } })],
      ['javascript'],
    );
    assert.ok(
      files.files.some(({ text: code }) => code.includes(equal.slice(0, 40))),
      'the module has it',
    );
  });

  test('patterns as people write them are left as they are', () => {
    const plain = [
      '[A-Z]{2}-[0-9]{4}',
      '[a-z]+(?: [a-z]+)*',
      '\\+[0-9]{1,3}(?: [0-9]{2,5}){2,4}',
      '(?=.*[0-9])(?=.*[a-z]).{8,64}',
      '[^<>]{1,2000}',
    ];
    for (const source of plain) {
      assert.equal(dangerOf({ source, flags: 'u' }).is, 'linear', source);
      assert.equal(safeFormOf({ source, flags: 'u' }).form, 'pattern', source);
    }
  });
});
