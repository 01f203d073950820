import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { type Schema, schemaOf } from '../../../src/core/declare/index.js';
import { checkRows, type FilledRuleset, fillSchema } from '../../../src/core/fill/index.js';
import { decide } from '../../../src/core/meaning/index.js';
import { ProblemError } from '../../../src/core/messages/index.js';
import { isSent, type Row } from '../../../src/core/model/index.js';
import { englishWords, fill } from '../../../src/fill.js';
import { boolean, date, integer, list, record, reference, ruleset, text, unique } from '../../../src/index.js';
import { planted } from '../../fixtures/planted-rulesets.js';
import { randomFrom } from '../../fixtures/random.js';
import { soak } from '../../fixtures/records.js';
import { everyKind, modelIn, studio } from '../../fixtures/schema.js';

const clock = { instant: '2026-03-02T12:00:00Z', zone: 'UTC' };
const filled = (schema: Schema, count: number, seed = 7, more: Partial<Parameters<typeof fillSchema>[1]> = {}) =>
  fillSchema(schema, { count, seed, words: englishWords(), ...more });

/** What a record sends, without what its store fills. */
function sentPart(model: Schema[number], row: Row): Row {
  const names = Object.values(model.fields)
    .filter((field) => isSent(field))
    .map(({ name }) => name);
  return Object.fromEntries(names.filter((name) => Object.hasOwn(row, name)).map((name) => [name, row[name] ?? null]));
}

/** Every record is valid beside all that come before it, look-ups too. */
function assertValid(schema: Schema, made: readonly FilledRuleset[]): void {
  const stored = new Map<string, Row[]>();
  for (const { ruleset: name, rows } of made) {
    const model = modelIn(schema, name);
    const own: Row[] = [];
    stored.set(name, own);
    // Against a sample of those before it, as the meaning looks through all of them for each.
    for (const [at, row] of rows.entries()) {
      const store = (of: string) => (of === name ? own.slice(-200) : (stored.get(of) ?? []));
      const verdict = decide(model, sentPart(model, row), 'row', { clock, store });
      assert.ok('accepted' in verdict, `${name} ${at}: ${JSON.stringify(row)} ${JSON.stringify(verdict)}`);
      own.push(row);
    }
  }
}

describe('records that are made up', () => {
  test('a thousand firings with their kilns and potters keep every rule', () => {
    const made = filled(studio, 1_000);
    assert.deepEqual(
      made.map(({ ruleset: name, rows }) => [name, rows.length]),
      [
        ['kiln', 100],
        ['potter', 100],
        ['firing', 1_000],
      ],
    );
    assertValid(studio, made);
    const firings = made[2]?.rows ?? [];
    for (const paths of [['tag'], ['kiln', 'loadOn']]) {
      const keys = firings.map((row) => JSON.stringify(paths.map((path) => row[path])));
      assert.equal(new Set(keys).size, keys.length, paths.join());
    }
    const collected = firings.filter(({ collectOn }) => collectOn !== null);
    const near = collected.filter(({ loadOn, collectOn }) => {
      const days = (Date.parse(String(collectOn)) - Date.parse(String(loadOn))) / 86_400_000;
      return days > 0 && days < 8;
    });
    assert.ok(near.length > collected.length * 0.9, 'days that go together');
  });

  test('what a person has goes together', () => {
    const potters =
      filled(studio, 50, 3, { rulesets: ['potter'] }).find(({ ruleset: name }) => name === 'potter')?.rows ?? [];
    for (const { name, handle, email } of potters) {
      const [first = ''] = String(name).toLowerCase().split(' ');
      if (email !== null) assert.ok(String(email).startsWith(first.replace(/[^a-z]/g, '')), `${name} ${email}`);
      assert.match(String(handle), /^[a-z]/);
    }
  });

  test('the same seed gives the same records, another seed others', () => {
    assert.deepEqual(filled(studio, 30), filled(studio, 30));
    assert.notDeepEqual(filled(studio, 30, 8), filled(studio, 30));
  });

  test('every kind and operator can be filled', () => {
    assertValid(everyKind, filled(everyKind, soak ? 200 : 40));
  });

  test('rulesets at random are filled with valid records', () => {
    let count = 0;
    for (let seed = 0; seed < (soak ? 200 : 30); seed += 1) {
      const { ruleset: one, source } = planted(randomFrom(seed));
      const schema = schemaOf([one]);
      try {
        const made = filled(schema, 5, seed);
        assertValid(schema, made);
        count += 1;
      } catch (error) {
        // Rules may let in no more than a few records.
        if (!(error instanceof ProblemError)) throw new Error(`${source}\n${String(error)}`, { cause: error });
        assert.equal(error.problems[0]?.code, 'fill_exhausted', source);
      }
    }
    assert.ok(count > (soak ? 120 : 18), `${count} rulesets could be filled`);
  });

  test('nothing repeats what is there already, and references may name it', () => {
    const there = new Map(filled(studio, 40).map(({ ruleset: name, rows }) => [name, rows]));
    const more = filled(studio, 40, 7, { beside: there });
    const firings = more.find(({ ruleset: name }) => name === 'firing')?.rows ?? [];
    assert.equal(firings.length, 40);
    const tags = new Set((there.get('firing') ?? []).map(({ tag }) => tag));
    assert.ok(!firings.some(({ tag }) => tags.has(tag ?? null)), 'no tag twice');
    const kilns = new Set((there.get('kiln') ?? []).map(({ code }) => code));
    assert.ok(
      firings.every(({ kiln }) => kilns.has(kiln ?? null)),
      'its kilns are those that are there',
    );
  });

  test('more than can differ is refused, with the rule that keeps them apart', () => {
    const shelf = ruleset('shelf', { key: 'code', fields: { code: text({ pattern: /[AB][0-9]/ }) } });
    const [made] = fill([shelf], { count: 20 });
    assert.equal(new Set(made?.rows.map(({ code }) => code)).size, 20, 'all twenty');
    const slot = ruleset('slot', {
      fields: { shelf: reference(shelf), level: integer({ min: 1, max: 2 }), lit: boolean() },
      rules: (it) => ({ once: unique(it.shelf, it.level) }),
    });
    const slots = fill([shelf, slot], { count: 8 }).find(({ ruleset: name }) => name === 'slot');
    assert.equal(slots?.rows.length, 8);
    assert.throws(
      () => fill([shelf], { count: 21 }),
      (error) =>
        error instanceof ProblemError &&
        /No more than 20 of 21.*shelf\.code\.unique/.test(error.problems[0]?.message ?? ''),
    );
  });

  test('where references form a circle, a record comes behind those that it requires', () => {
    const member = ruleset('member', {
      key: 'id',
      fields: {
        id: integer({ min: 1, max: 900 }),
        shelf: reference('shelf', text()),
        group: reference('group', text(), { optional: true }),
      },
    });
    const shelf = ruleset('shelf', {
      key: 'code',
      fields: { code: text({ pattern: /[A-Z]{2}/ }), groups: list(reference('group', text())) },
    });
    const group = ruleset('group', {
      key: 'name',
      fields: { name: text({ maxLength: 9 }), head: reference('member', integer(), { optional: true }) },
    });
    for (const rulesets of [
      [member, shelf, group],
      [shelf, member, group],
      [group, shelf, member],
    ]) {
      const schema = schemaOf(rulesets);
      const made = filled(schema, 12);
      assert.equal(made.length, 3);
      assertValid(schema, made);
    }
  });

  test('keys that the store counts, lists, records and rules over them', () => {
    const artist = ruleset('artist', {
      key: 'id',
      fields: {
        id: integer({ generated: 'identity' }),
        name: text({ maxLength: 30 }),
        born: date({ max: '2010-01-01' }),
      },
    });
    const show = ruleset('show', {
      fields: {
        artist: reference(artist),
        from: date(),
        to: date(),
        address: record({ street: text({ maxLength: 40 }), city: text() }),
        pieces: list(record({ title: text(), price: integer({ min: 1, max: 500 }) }), { minItems: 1, maxItems: 5 }),
      },
      rules: (it) => ({ lasts: it.to.isAfter(it.from), afford: it.pieces.sum((one) => one.price).isAtMost(900) }),
    });
    const schema = schemaOf([artist, show]);
    const made = filled(schema, 30);
    assertValid(schema, made);
    const ids = new Set(made[0]?.rows.map(({ id }) => id));
    assert.ok(
      made[1]?.rows.every((row) => ids.has(row.artist ?? null)),
      'references name rows',
    );
  });

  test('given rows are checked like anything else, each with its place', () => {
    const at = (line: number) => ({ file: 'kiln.jsonl', line });
    const { rows, refused } = checkRows(
      [
        { place: at(1), wire: 'json', input: { code: 'K01', name: ' Old Smoky ', hottest: 1200 } },
        { place: at(2), wire: 'json', input: { code: 'K1', name: 'x', hottest: 1200 } },
        { place: at(3), wire: 'form', input: { code: 'K01', name: 'Another', hottest: '1000' } },
      ],
      modelIn(studio, 'kiln'),
      studio,
      () => [],
    );
    assert.deepEqual(rows, [{ code: 'K01', name: 'Old Smoky', hottest: 1200 }]);
    assert.deepEqual(
      refused.map(({ place, violations }) => [place.line, violations.map(({ rule }) => rule)]),
      [
        [2, ['kiln.code.pattern', 'kiln.name.minLength']],
        [3, ['kiln.code.unique']],
      ],
    );
  });
});
