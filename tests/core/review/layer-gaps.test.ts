import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { type AnyRuleset, schemaOf } from '../../../src/core/declare/index.js';
import { Languages } from '../../../src/core/reason/index.js';
import { reviewSchema } from '../../../src/core/review/index.js';
import { isAlwaysHeld } from '../../../src/core/review/layer-gaps.js';
import { subjectOf } from '../../../src/core/review/subject.js';
import { ledgerOf, tableTargets } from '../../../src/core/targets/index.js';
import { date, list, lookUp, rule, ruleset, text, today, unique } from '../../../src/index.js';
import { everyKind, studio } from '../../fixtures/schema.js';

const engines: readonly string[] = Object.keys(tableTargets);

describe('gaps between layers', () => {
  test('what is taken to be held by some engine is, and what is told to be held by none is absent in all', () => {
    let [held, told] = [0, 0];
    for (const schema of [studio, everyKind]) {
      const ledger = ledgerOf(schema).filter(({ target }) => engines.includes(target));
      const isAbsent = (id: string) =>
        ledger.filter(({ constraint }) => constraint === id).every(({ fidelity }) => fidelity.is === 'absent');
      for (const model of schema) {
        const subject = subjectOf(model, schema, new Languages());
        for (const one of model.constraints) {
          if (!isAlwaysHeld(one, subject)) continue;
          held += 1;
          assert.ok(!isAbsent(one.id) || one.predicate.op === 'typed' || one.predicate.op === 'canonical', one.id);
        }
      }
      for (const { code, rules } of reviewSchema(schema)) {
        if (code !== 'not_stored') continue;
        told += rules.length;
        for (const { id } of rules) assert.ok(isAbsent(id), id);
      }
    }
    assert.ok(held > 150 && told > 5, `${held} taken to be held, ${told} told`);
  });

  test('each sort of gap is told once, with its rules and what to do', () => {
    const made = ruleset('x', {
      fields: {
        a: text({ lines: 'many', maxLength: 40 }),
        b: date(),
        c: list(text({ maxLength: 9 })),
        d: text({ enforcedIn: ['server', 'database'], maxLength: 9 }),
      },
      rules: (it) => ({
        future: it.b.isAfter(today()),
        some: it.c.count().isAtLeast(1),
        once: unique(it.d),
        known: lookUp([it.d]),
        late: rule({ holds: it.b.isAfter('2000-01-01'), enforcedIn: ['client', 'server'] }),
      }),
    }) as unknown as AnyRuleset;
    const told = reviewSchema(schemaOf([made]))
      .filter(({ code }) => ['not_stored', 'client_blind', 'attribute_left_out'].includes(code))
      .map(({ code, rules, mend }) => [code, rules.map(({ id }) => id), mend.length > 20] as const);
    const of = (wanted: string) => told.filter(([code]) => code === wanted).flatMap(([, rules]) => rules);
    assert.deepEqual(of('attribute_left_out'), ['x.a.maxLength']);
    assert.deepEqual([...of('not_stored')].sort(), ['x.future', 'x.late', 'x.some']);
    for (const id of ['x.once', 'x.known', 'x.d.maxLength']) assert.ok(of('client_blind').includes(id), id);
    assert.ok(
      told.every(([, , mended]) => mended),
      'each says what to do',
    );
  });
});
