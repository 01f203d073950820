import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { caseSetFor, casesFor, selected } from '../../../src/core/cases/index.js';
import { type Schema, schemaOf } from '../../../src/core/declare/index.js';
import { isTrimmed, valueField, whiteSpace } from '../../../src/core/kinds/index.js';
import { decide, judgingFor } from '../../../src/core/meaning/index.js';
import {
  type Case,
  isSent,
  type Pattern,
  plainFields,
  type Row,
  type Value,
  valueAt,
} from '../../../src/core/model/index.js';
import { isLookup, judge } from '../../../src/core/operators/index.js';
import { automatonOfPattern, movesOf, Routes, transitionWords } from '../../../src/core/reason/index.js';
import { date, integer, ruleset, text, unique } from '../../../src/index.js';
import { everything, order, plan, shelf } from '../../fixtures/everything.rules.js';
import { modelIn, studio } from '../../fixtures/schema.js';

const wide = schemaOf([shelf, plan, everything, order]);
const schemas: { readonly [name: string]: Schema } = { studio, wide };
const refused = ({ expected }: Case) => ('refused' in expected ? expected.refused.map(({ rule }) => rule) : []);

describe('boundary cases', () => {
  for (const [name, schema] of Object.entries(schemas)) {
    const cases = schema.flatMap((model) => casesFor(model, schema));

    test(`${name}: what is expected is what the meaning says, and no two ids are alike`, () => {
      assert.equal(new Set(cases.map(({ id }) => id)).size, cases.length);
      for (const { ruleset: of, input, wire, clock, before, does, existing, expected, id } of cases) {
        // A deletion sends no record.
        if (does === 'delete') continue;
        const store = (other: string) => before.filter((one) => one.ruleset === other).map(({ row }) => row);
        const how = { clock, store, existing, partial: does === 'patch' };
        assert.deepEqual(decide(modelIn(schema, of), input, wire, how), expected, id);
      }
    });

    test(`${name}: the same declaration gives the same cases`, () => {
      assert.deepEqual(
        schema.flatMap((model) => casesFor(model, schema)),
        cases,
      );
    });

    test(`${name}: every limit has a case at it, and one a step to each side, on every wire`, () => {
      const lacking = schema.flatMap((model) =>
        model.constraints.flatMap(({ id, facet, owner, predicate }) => {
          const field = plainFields(model).find(({ path }) => path === owner);
          if (!facet || field === undefined || !isSent(field) || predicate.op !== 'compare') return [];
          if (!/\.(?:min|max)$/.test(id) || !field.enforcedIn.includes('server')) return [];
          return (['form', 'json', 'row'] as const).flatMap((wire) => {
            const own = cases.filter((one) => one.constraint === id && one.wire === wire && one.criterion === 'edges');
            const words = own.map(({ reason }) => reason);
            const sides = ['exactly the', 'one step below the', 'one step above the'];
            return sides
              .filter((side) => !words.some((word) => word.startsWith(side)))
              .map((side) => `${id} ${wire} ${side}`);
          });
        }),
      );
      assert.deepEqual(lacking, []);
    });

    test(`${name}: every required field is left out in every spelling, and every optional one`, () => {
      for (const model of schema) {
        for (const field of plainFields(model)) {
          if (!isSent(field) || field.item !== null || !field.enforcedIn.includes('server')) continue;
          const about = `${model.ruleset}.${field.path}.`;
          const own = cases.filter((one) => one.criterion === 'presence' && one.constraint.startsWith(about));
          const spellings = new Set(own.map(({ wire, reason }) => `${wire}: ${reason}`));
          const wanted = ['form: the name is missing from the form', 'form: the empty text', 'json: null', 'row: NULL'];
          for (const one of wanted) assert.ok(spellings.has(one), `${about} ${one}`);
        }
      }
    });

    test(`${name}: every character of white space stands around every trimmed text that a table may be given`, () => {
      for (const model of schema) {
        for (const field of plainFields(model).filter(isTrimmed)) {
          if (!isSent(field) || field.item !== null || !field.enforcedIn.includes('server')) continue;
          const own = cases.filter(
            (one) => one.wire === 'row' && one.criterion === 'white space' && one.ruleset === model.ruleset,
          );
          const values = own.map(({ input }) => valueAt(input as Row, field.path));
          const lacking = whiteSpace
            .map((point) => String.fromCodePoint(point))
            .filter(
              (space) =>
                !values.some((value) => typeof value === 'string' && value.startsWith(space) && value.endsWith(space)),
            );
          assert.deepEqual(lacking, [], `${model.ruleset}.${field.path}`);
        }
      }
    });

    test(`${name}: the accepted texts of a pattern take every move of its automaton, but those that are told`, () => {
      for (const model of schema) {
        const { leftOut } = caseSetFor(model, schema);
        for (const { path, facets } of plainFields(model).map((field) => ({
          ...valueField(field),
          path: field.path,
        }))) {
          const pattern = facets.pattern as Pattern | undefined;
          const id = `${model.ruleset}.${path}.pattern`;
          const own = cases.filter((one) => one.constraint === id && one.criterion === 'patterns');
          if (pattern == null || /\\1/.test(pattern.source) || facets.minLength != null || facets.maxLength != null)
            continue;
          const automaton = automatonOfPattern(pattern);
          const all = new Set(
            transitionWords(new Routes(automaton), 1_000).flatMap((word) => movesOf(automaton, word)),
          );
          const words = own.filter((one) => refused(one).length === 0).map(({ input }) => textAt(input, path));
          const taken = new Set(words.flatMap((word) => movesOf(automaton, word)));
          const missed = [...all].filter((move) => !taken.has(move));
          if (!leftOut.has(id)) assert.deepEqual(missed, [], id);
          const misses = own.filter((one) => refused(one).includes(id));
          assert.ok(misses.length > 9, `${id} has ${misses.length} near misses`);
        }
      }
    });

    test(`${name}: each condition of a compound rule decides by itself, where it can`, () => {
      for (const model of schema) {
        for (const rule of model.constraints) {
          const parts = conditions(rule.predicate);
          const isPlain = rule.over === null && rule.subjects.every((path) => !path.includes('[]'));
          if (rule.facet || isLookup(rule.predicate) || parts.length < 2 || parts.length > 4 || !isPlain) continue;
          const rows = cases
            .filter((one) => one.constraint === rule.id && one.wire === 'row' && one.does === 'insert')
            .map(({ input, clock }) => ({ row: input as Row, clock }));
          const seen = rows.map(({ row, clock }) => {
            const judging = judgingFor(model, row, clock);
            return {
              truths: parts.map((part) => judge(part, judging)),
              kept: judge(rule.predicate, judging) !== false,
            };
          });
          const deciding = parts.filter((_, at) =>
            seen.some((a) =>
              seen.some((b) => {
                const others = a.truths.every((truth, other) => other === at || truth === b.truths[other]);
                return others && a.truths[at] === true && b.truths[at] === false && a.kept !== b.kept;
              }),
            ),
          );
          // A condition that no record lets decide is rare; half of them would be a hole.
          assert.ok(deciding.length * 2 > parts.length, `${rule.id}: ${deciding.length} of ${parts.length} decide`);
        }
      }
    });
  }

  test('a refusal of the studio has one reason', () => {
    const cases = studio.flatMap((model) => casesFor(model, studio));
    const single = [
      'edges',
      'patterns',
      'rules',
      'decisions',
      'pairs of limits',
      'columns',
      'characters',
      'uniqueness',
      'references',
    ];
    const many = cases.filter((one) => single.includes(one.criterion) && refused(one).length > 1);
    // A day of the year 1 comes before every other, and an amount with a digit too many is above every limit.
    assert.deepEqual(
      many.filter((one) => !/collectOn|loadOn|fee\.precision/.test(one.constraint)).map(({ id }) => id),
      [],
    );
  });

  test('accepted cases of the studio share no unique value, where there are enough', () => {
    for (const [of, path] of [
      ['firing', 'tag'],
      ['potter', 'handle'],
    ] as const) {
      const accepted = casesFor(modelIn(studio, of), studio).filter(
        (one) =>
          'accepted' in one.expected && one.does === 'insert' && !one.before.some((other) => other.ruleset === of),
      );
      const others = accepted.filter(
        (one) => !one.constraint.startsWith(`${of}.${path}.`) && !/TakenOnce|unique/.test(one.constraint),
      );
      const values = others.flatMap(({ expected }): Value[] =>
        'accepted' in expected ? [expected.accepted[path] ?? null] : [],
      );
      const given = values.filter((value) => value !== null);
      const repeated = given.length - new Set(given).size;
      assert.ok(given.length > 50 && repeated <= given.length / 50, `${of}.${path}: ${repeated} of ${given.length}`);
    }
  });

  test('a changed rule changes only its own cases', () => {
    const booking = (most: number, longest: number) =>
      ruleset('booking', {
        key: 'tag',
        fields: {
          tag: text({ pattern: /[A-Z]{2}-[0-9]{4}/ }),
          pieces: integer({ min: 1, max: most }),
          title: text({ maxLength: longest }),
          from: date(),
          to: date({ optional: true }),
        },
        rules: (it) => ({
          later: it.to.isAfter(it.from),
          once: unique(it.title, it.from),
        }),
      });
    const of = (most: number, longest: number) => {
      const schema = schemaOf([booking(most, longest)]);
      return casesFor(modelIn(schema, 'booking'), schema);
    };
    const before = new Map(of(40, 40).map((one) => [one.id, JSON.stringify(one)]));
    const changed = (after: readonly Case[]) =>
      after.filter((one) => before.get(one.id) !== JSON.stringify(one)).map(({ constraint }) => constraint);
    assert.deepEqual([...new Set(changed(of(38, 40)))], ['booking.pieces.max']);
    assert.deepEqual([...new Set(changed(of(40, 50)))], ['booking.title.maxLength']);
  });

  test('a budget keeps the most telling: a valid record first, then one case a rule', () => {
    const sets = studio.map((model) => caseSetFor(model, studio));
    const { cases, coverage } = selected(sets, { budget: 130 });
    assert.equal(cases.length, 130);
    assert.ok('accepted' in (cases[0] as Case).expected, 'the first is a valid record');
    assert.equal(coverage.covered, coverage.rules, 'every rule has a case');
    assert.equal(
      coverage.made,
      sets.reduce((sum, one) => sum + one.cases.length, 0),
    );
    const one = selected(sets, { rules: ['firing.pieces.max'] });
    assert.ok(
      one.cases.length > 5 && one.cases.every(({ constraint }) => constraint === 'firing.pieces.max'),
      'one rule',
    );
    const field = selected(sets, { fields: ['firing.pieces'] });
    assert.ok(
      field.cases.every(({ constraint }) => constraint.startsWith('firing.pieces.')),
      'one field',
    );
  });

  test('a pattern of a thousand states stays within its budget', () => {
    const long = ruleset('long', { fields: { code: text({ pattern: /(?:ab|cd){250}x{0,500}/ }) } });
    const schema = schemaOf([long]);
    const { cases, leftOut } = caseSetFor(modelIn(schema, 'long'), schema);
    const own = cases.filter(
      ({ constraint, criterion }) => constraint === 'long.code.pattern' && criterion === 'patterns',
    );
    assert.ok(own.length > 100 && own.length <= 3 * (16 + 64), `${own.length} cases`);
    assert.ok((leftOut.get('long.code.pattern') ?? 0) > 1_000, 'what is left out is told');
  });

  for (const [source, twin] of [
    ['\\p{L}+', '\u0345'],
    ['[α-ω]{2}', '\u00b5'],
    ['[a-zà-ÿ]+', '\u212a'],
  ] as const)
    test(`letters that only another case makes of ${source} are refused by it`, () => {
      const named = ruleset('named', { fields: { name: text({ pattern: new RegExp(source, 'u') }) } });
      const cases = casesFor(modelIn(schemaOf([named]), 'named'), schemaOf([named]));
      const found = cases.filter((one) => refused(one).includes('named.name.pattern'));
      const whole = new RegExp(`^(?:${source})$`, 'iu');
      const told = found.map(({ input }) => textAt(input, 'name')).filter((one) => one.includes(twin));
      assert.ok(
        told.some((one) => whole.test(one)),
        'one that case alone tells apart',
      );
    });
});

/** A text of an input on any wire, by a path. */
function textAt(input: unknown, path: string): string {
  const record = input as { readonly [name: string]: Value };
  const [first = '', ...rest] = path.split('.');
  const flat = record[`${first}${rest.map((step) => `[${step}]`).join('')}`];
  return String(flat ?? valueAt(record, path) ?? '');
}

type Predicate = Schema[number]['constraints'][number]['predicate'];

function conditions(predicate: Predicate): readonly Predicate[] {
  if (predicate.op === 'and') return predicate.all.flatMap(conditions);
  if (predicate.op === 'or') return predicate.any.flatMap(conditions);
  return predicate.op === 'not' ? conditions(predicate.holds) : [predicate];
}
