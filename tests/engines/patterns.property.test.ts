import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { after, before, describe, test } from 'node:test';
import fc from 'fast-check';
import type { Pattern } from '../../src/core/model/index.js';
import {
  type Automaton,
  automatonOf,
  automatonOfPattern,
  coveringWords,
  dangerOf,
  difference,
  NotRegular,
  orConstruct,
  readPattern,
  wordOfLength,
} from '../../src/core/reason/index.js';
import { spelling as mariadbSpelling } from '../../src/core/targets/mariadb/names.js';
import { matches as matchesMariadb } from '../../src/core/targets/mariadb/patterns.js';
import { printSql } from '../../src/core/targets/sql/print.js';
import { type PatternEngine, type PatternEngineName, patternEngines } from '../fixtures/pattern-engines.js';
import { pattern, texts } from '../fixtures/patterns.js';
import { soak } from '../fixtures/records.js';
import { connectMariadb, scratchDatabase } from '../fixtures/servers.js';
import { slowPatterns } from '../fixtures/slow-patterns.js';

const RUNS = soak ? 2_000 : 150;
/** Accepted texts of each real pattern, and texts that are refused by a hair. */
const EACH = 20;

interface Sample {
  readonly pattern: Pattern;
  readonly texts: readonly string[];
}

const isText = (text: string) => !/[\u0000\p{Surrogate}]/u.test(text);
const wholeOf = ({ source, flags }: Pattern) => new RegExp(`^(?:${source})$`, flags);

/** Texts one edit away: a character left out, doubled, in the other case, of another script, and what hides at an end. */
function nearMisses(word: string): readonly string[] {
  const characters = [...word];
  const edits = characters.flatMap((character, at) => {
    const put = (...middle: readonly string[]) =>
      [...characters.slice(0, at), ...middle, ...characters.slice(at + 1)].join('');
    const swapped = character === character.toUpperCase() ? character.toLowerCase() : character.toUpperCase();
    return [put(), put(character, character), put(swapped), put('٣'), put('-')];
  });
  return [...edits, `${word}\n`, `\n${word}`, `${word} `, ` ${word}`, `${word}x`, `${word}😀`, ''];
}

/** Twenty accepted texts, as far as there are so many, and twenty near misses. */
function sampled(pattern: Pattern, automaton: Automaton): Sample {
  const whole = wholeOf(pattern);
  const words = new Set<string>();
  for (let turn = 0; turn < 8 && words.size < EACH; turn++) {
    for (const word of coveringWords(automaton, EACH, turn * 3)) words.add(word);
    for (let length = 1; length < 40 && words.size < 2 * EACH; length += 1 + turn) {
      const word = wordOfLength(automaton, length, turn);
      if (word !== null) words.add(word);
    }
  }
  const accepted = [...words].filter((word) => isText(word) && whole.test(word)).slice(0, EACH);
  const near = [...new Set(accepted.flatMap(nearMisses))].filter((text) => isText(text) && !whole.test(text));
  const step = Math.max(1, Math.floor(near.length / EACH));
  return { pattern, texts: [...accepted, ...near.filter((_, at) => at % step === 0).slice(0, EACH + 5)] };
}

/** Patterns of fields as people write them: dates, codes, addresses, numbers, names. */
const real: readonly Pattern[] = readFileSync(new URL('../fixtures/field-patterns.txt', import.meta.url), 'utf8')
  .split('\n')
  .filter((line) => line !== '' && !line.startsWith('# '))
  .map((source) => {
    const { flags } = new RegExp(source, isUnicode(source) ? 'u' : 'v');
    return { source, flags };
  });

function isUnicode(source: string): boolean {
  try {
    new RegExp(source, 'u');
    return true;
  } catch {
    return false;
  }
}

function automatonFor(one: Pattern): Automaton | null {
  try {
    return automatonOfPattern(one);
  } catch (error) {
    if (error instanceof NotRegular) return null;
    throw error;
  }
}

const read = real.map((one) => ({ pattern: one, automaton: automatonFor(one) }));
const realSamples = read.flatMap(({ pattern: one, automaton }) =>
  automaton === null ? [] : [sampled(one, automaton)],
);
const randomSamples: readonly Sample[] = fc
  .sample(fc.tuple(pattern, fc.array(texts, { minLength: 6, maxLength: 6 })), { numRuns: RUNS, seed: 3 })
  .flatMap(([source, more]) => {
    // Word boundaries among many repeats may be beyond a tree.
    const tree = orConstruct(() => readPattern({ source, flags: 'u' }));
    if (typeof tree === 'string') return [];
    const words = coveringWords(automatonOf(tree), 8);
    const near = words.slice(0, 3).flatMap((word) => [`${word}x`, `\n${word}`, word.slice(1), word.toUpperCase()]);
    return [{ pattern: { source, flags: 'u' }, texts: [...new Set([...words, ...near, ...more])].filter(isText) }];
  });

/** What an engine's own syntax says, read back as ECMAScript: code points are spelled in another way only. */
const readBack: { readonly [engine: string]: (text: string) => string } = {
  postgresql: (text) => text.replace(/\\u([0-9a-f]{4})/g, '\\u{$1}').replace(/\\U([0-9a-f]{8})/g, '\\u{$1}'),
  mariadb: (text) =>
    text
      .replace(/\\x\{([0-9a-f]+)\}/g, '\\u{$1}')
      .replace('(?-i)', '')
      .replace(/\\z$/, '$'),
};

describe('patterns in the engines', () => {
  test('there are many real patterns, and few of them are beyond an automaton', () => {
    assert.ok(randomSamples.length > RUNS * 0.98, `${randomSamples.length} random patterns can be read`);
    assert.ok(real.length >= 500, `${real.length} patterns`);
    const beyond = read.filter(({ automaton }) => automaton === null);
    assert.ok(beyond.length <= 1, `${beyond.map(({ pattern: { source } }) => source).join(', ')}: beyond an automaton`);
    for (const { texts: all } of realSamples) assert.ok(all.length >= 10, `${all.length} texts`);
  });

  for (const name of Object.keys(patternEngines) as readonly PatternEngineName[]) {
    describe(name, () => {
      let engine: PatternEngine;
      before(async () => {
        engine = await patternEngines[name]();
      });
      after(() => engine.close());

      test(`${realSamples.length} real patterns and ${randomSamples.length} random ones accept what ECMAScript accepts`, async () => {
        const wrong: string[] = [];
        let absent = 0;
        for (const { pattern: one, texts: all } of [...realSamples, ...randomSamples]) {
          const made = engine.made(one);
          // Word boundaries among many repeats may be more than an engine takes.
          if ('untranslated' in made && /\\b/i.test(one.source)) {
            absent += 1;
            continue;
          }
          assert.ok(!('untranslated' in made), `${one.source} is translated`);
          const whole = wholeOf(one);
          const answers = await engine.takes(made, all);
          all.forEach((text, at) => {
            if (answers[at] !== whole.test(text)) wrong.push(`${one.source} on ${JSON.stringify(text)}`);
          });
        }
        assert.deepEqual(wrong, []);
        assert.ok(absent < randomSamples.length / 50, `${absent} patterns are absent`);
      });

      test('what no automaton holds is told, and nothing is made of it', () => {
        for (const { pattern: one, automaton } of read) {
          if (automaton === null) assert.ok('untranslated' in engine.made(one), one.source);
        }
        assert.ok('untranslated' in engine.made({ source: '(.)\\1', flags: 'u' }), 'a backreference');
      });

      test('what is emitted is the same language, by automata, where the engine has patterns of its own', (context) => {
        const spelled = Object.entries(readBack).find(([engineName]) => name.startsWith(engineName))?.[1];
        if (spelled === undefined) return context.skip('the engine has none: its forms are proved as they are made');
        for (const { pattern: one, automaton } of read) {
          const made = engine.made(one);
          if (automaton === null || !('check' in made) || !('right' in made.check) || !('text' in made.check.right))
            continue;
          const back = automatonOf(readPattern({ source: spelled(made.check.right.text), flags: 'u' }));
          const other = difference(automaton, back);
          assert.ok(other === null || other.includes('\0'), `${one.source}: ${JSON.stringify(other)}`);
        }
      });
    });
  }

  test('SQLite: most patterns are a CHECK, and none stands deep within calls', async () => {
    const engine = await patternEngines['sqlite in WASM']();
    const made = realSamples.map(({ pattern: one }) => engine.made(one));
    const checks = made.filter((one) => 'check' in one);
    const deepest = Math.max(...checks.map((one) => depth(one)));
    await engine.close();
    assert.ok(checks.length > made.length * 0.85, `${checks.length} of ${made.length}`);
    assert.ok(deepest <= 20, `${deepest} calls deep`);
  });
});

/** How many calls stand within one another. */
function depth(sql: unknown): number {
  if (typeof sql !== 'object' || sql === null) return 0;
  const inside = Math.max(0, ...Object.values(sql).map(depth));
  return 'call' in sql ? inside + 1 : inside;
}

test('MariaDB reads to the end what takes a pattern as it is written too many attempts', async () => {
  const scratch = await scratchDatabase('mariadb');
  const connection = await connectMariadb(scratch);
  try {
    const documented = slowPatterns.filter((source) => {
      const made = matchesMariadb({ column: 'x' }, { source, flags: 'u' });
      return 'check' in made && made.gap !== undefined;
    });
    assert.ok(documented.length < slowPatterns.length / 20, `${documented.join(', ')} are not exact`);
    for (const source of slowPatterns.filter((one) => !documented.includes(one))) {
      const made = matchesMariadb({ column: 'x' }, { source, flags: 'u' });
      const danger = dangerOf({ source, flags: 'u' });
      assert.ok('check' in made && danger.is === 'growing', source);
      const { prefix, repeated, suffix } = danger.attack;
      const sql = `SELECT ${printSql(made.check, mariadbSpelling)} AS held FROM (SELECT ? AS x) AS attacks`;
      const [rows] = await connection.query(sql, [prefix + repeated.repeat(2_000) + suffix]);
      const [warnings] = await connection.query('SHOW WARNINGS');
      assert.deepEqual([rows, warnings], [[{ held: 0 }], []], source);
    }
  } finally {
    await connection.end();
    await scratch.remove();
  }
});
