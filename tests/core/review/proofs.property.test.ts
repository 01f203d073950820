import assert from 'node:assert/strict';
import { describe, test } from 'node:test';
import { type AnyRuleset, type Schema, schemaOf } from '../../../src/core/declare/index.js';
import { judgingFor } from '../../../src/core/meaning/index.js';
import type { Constraint, Row } from '../../../src/core/model/index.js';
import { isLookup, judge } from '../../../src/core/operators/index.js';
import { Languages, Reasoner } from '../../../src/core/reason/index.js';
import { type Finding, reviewSchema } from '../../../src/core/review/index.js';
import { integer, ruleset, text } from '../../../src/index.js';
import { planted } from '../../fixtures/planted-rulesets.js';
import { randomFrom } from '../../fixtures/random.js';
import { rulesetOf, rulesetSource, sourceText } from '../../fixtures/random-rulesets.js';
import { soak } from '../../fixtures/records.js';
import { reviewed } from '../../fixtures/reviewed.js';
import { brokenBy, rowsFrom } from '../../fixtures/row-pools.js';
import { everyKind, studio } from '../../fixtures/schema.js';

const WILD = soak ? 300 : 30;
const PLANTED = soak ? 1_000 : 200;
const ROWS = soak ? 500 : 60;
/** What stops a record from being given at all. */
const alarms = ['no_value', 'contradiction', 'default_refused', 'reference_unfit'];
const REDUNDANT_ROWS = 10_000;
/** What the random rulesets refer to. */
const targets: readonly AnyRuleset[] = [
  ruleset('kiln', { key: 'code', fields: { code: text({ pattern: /K[0-9]{2}/ }) } }),
  ruleset('rack', { key: 'code', fields: { code: integer({ max: 40 }) } }),
];
const clock = { instant: '2026-03-02T12:00:00Z', zone: 'UTC' };

function judged({ constraints }: Schema[number]): readonly Constraint[] {
  return constraints.filter(({ predicate }) => !isLookup(predicate));
}

/**
 * What can't be read is refused for that, and no rule that mentions it is judged; an empty text is no value, and refused
 * by the canonical form where a row has it.
 */
function isUnread(row: Row, broken: ReadonlySet<string>): boolean {
  return [...broken].some((id) => id.endsWith('.type')) || JSON.stringify(row).includes('""');
}

/** Held against rows: what is claimed of all records must be so of each that keeps the rules. */
function holdAgainst(
  findings: readonly Finding[],
  model: Schema[number],
  rows: readonly Row[],
  source: string,
): number {
  const ofRules = new Map(model.constraints.map((one) => [one.id, one]));
  let kept = 0;
  for (const row of rows) {
    const broken = brokenBy(model, row);
    if (isUnread(row, broken)) continue;
    const isKept = broken.size === 0;
    kept += Number(isKept);
    for (const { code, rules, field } of findings) {
      const where = () => `${code} of ${field} with ${JSON.stringify(row)} in ${source}`;
      if (code === 'contradiction' || code === 'no_value') {
        const value = row[field.split(/[.[]/)[0] ?? ''] ?? null;
        const isAbsent = code === 'no_value' && (value === null || typeof value === 'object');
        assert.ok(isAbsent || rules.some(({ id }) => broken.has(id)), where());
      }
      if (code === 'redundant') {
        const [rule, ...by] = rules.map(({ id }) => id);
        const isUnique = ofRules.get(rule ?? '')?.predicate.op === 'unique';
        assert.ok(isUnique || !broken.has(rule ?? '') || by.some((id) => broken.has(id)), where());
      }
      if (isKept && code === 'never_fires') {
        const predicate = ofRules.get(rules[0]?.id ?? '')?.predicate;
        const condition = predicate?.op === 'or' && predicate.any[0]?.op === 'not' ? predicate.any[0].holds : null;
        if (condition !== null) assert.notEqual(judge(condition, judgingFor(model, row, clock)), true, where());
      }
      if (isKept && code === 'only_absent' && !field.includes('.') && !field.includes('['))
        assert.ok(row[field] === null || (Array.isArray(row[field]) && row[field].length === 0), where());
    }
  }
  return kept;
}

describe('what a review claims is so', () => {
  test(`${PLANTED} random rulesets that some record keeps: no contradiction is told, and a record is found`, () => {
    const languages = new Languages();
    let [confirmed, undecided] = [0, 0];
    for (let seed = 1; seed <= PLANTED; seed++) {
      const { ruleset: made, record, source } = planted(randomFrom(seed));
      const [model] = schemaOf([made]);
      if (model === undefined) throw new Error('no model');
      assert.deepEqual([...brokenBy(model, record)], [], `the planted record keeps ${source}`);
      const findings = reviewSchema([model]);
      assert.deepEqual(
        findings.filter(({ code }) => alarms.includes(code)).map(({ code, message }) => `${code}: ${message}`),
        [],
        source,
      );
      const reasoner = new Reasoner(model, languages);
      const decision = reasoner.decide(judged(model));
      assert.notEqual(decision.is, 'impossible', source);
      if (decision.is === 'possible') assert.deepEqual([...brokenBy(model, decision.example.row)], [], source);
      confirmed += Number(decision.is === 'possible');
      undecided += Number(decision.is === 'undecided');
      holdAgainst(findings, model, [record, ...rowsFrom(model, reasoner, randomFrom(seed), ROWS)], source);
    }
    console.log(`${PLANTED} planted rulesets: ${confirmed} with a record worked out, ${undecided} undecided`);
    assert.equal(undecided, 0);
  });

  test(`${WILD} rulesets of every kind and operator: no row contradicts what is told of them`, () => {
    const languages = new Languages();
    const counts = { possible: 0, impossible: 0, undecided: 0 };
    let [sets, mended, kept] = [0, 0, 0];
    for (let seed = 1; seed <= WILD; seed++) {
      const source = rulesetSource(randomFrom(seed));
      const [model] = schemaOf([...targets, rulesetOf(source)]).filter(({ ruleset: name }) => name === 'random');
      if (model === undefined) throw new Error('no model');
      const reasoner = new Reasoner(model, languages);
      const all = judged(model);
      const rows = rowsFrom(model, reasoner, randomFrom(seed), ROWS);
      const decision = reasoner.decide(all);
      counts[decision.is] += 1;
      if (decision.is === 'impossible') {
        const conflict: readonly Constraint[] = reasoner.conflict(all);
        for (const row of rows) {
          const broken = brokenBy(model, row);
          if (isUnread(row, broken)) continue;
          assert.ok(
            conflict.some(({ id }) => broken.has(id)),
            `${JSON.stringify(row)} keeps them in ${sourceText(source)}`,
          );
        }
        for (const one of conflict) {
          sets += 1;
          const without = reasoner.decide(conflict.filter((other) => other !== one));
          assert.notEqual(without.is, 'impossible', `${one.id} is not needed in ${sourceText(source)}`);
          mended += Number(without.is === 'possible');
        }
      } else kept += rows.filter((row) => brokenBy(model, row).size === 0).length;
      holdAgainst(reviewSchema(schemaOf([...targets, rulesetOf(source)]), [model]), model, rows, sourceText(source));
    }
    console.log(
      `${WILD} rulesets: ${JSON.stringify(counts)}; ${mended} of ${sets} smallest sets less one rule shown; ${kept} rows kept all`,
    );
    assert.ok(counts.impossible > WILD / 10 && counts.possible > WILD / 10, 'both are there to be looked at');
    assert.ok(mended > sets * 0.6, `${mended} of ${sets} were shown by a record`);
  });

  test('each contradiction of the table: no row keeps it, and without any one of its rules a record does', () => {
    let sets = 0;
    for (const { name, rulesets, found } of reviewed) {
      // The meaning matches a pattern as it is: these would take it forever.
      if (found.some((one) => one.startsWith('pattern_slow'))) continue;
      const schema = schemaOf(rulesets);
      const model: Schema[number] | undefined = schema.at(-1);
      if (model === undefined) throw new Error('no model');
      const reasoner = new Reasoner(model, new Languages());
      const findings = reviewSchema(schema, [model]);
      holdAgainst(findings, model, rowsFrom(model, reasoner, randomFrom(1), 500), name);
      for (const { code, rules } of findings) {
        if (code !== 'contradiction') continue;
        const conflict: readonly Constraint[] = model.constraints.filter(({ id }) =>
          rules.some((rule) => rule.id === id),
        );
        for (const one of conflict) {
          sets += 1;
          const others = conflict.filter((other) => other !== one);
          assert.equal(reasoner.decide(others).is, 'possible', `${name} without ${one.id}`);
        }
      }
    }
    assert.ok(sets > 40, `${sets} sets were looked at`);
  });

  test(`dropping a rule that says nothing new changes no verdict on ${REDUNDANT_ROWS} rows`, () => {
    let dropped = 0;
    const tells = (code: string, found: readonly string[]) => found.some((one) => one.startsWith(code));
    const looked = reviewed.filter(({ found }) => tells('redundant', found) && !tells('pattern_slow', found));
    const share = Math.ceil(REDUNDANT_ROWS / looked.length);
    for (const { name, rulesets } of looked) {
      const model: Schema[number] | undefined = schemaOf(rulesets)[0];
      if (model === undefined) throw new Error('no model');
      const rows = rowsFrom(model, new Reasoner(model, new Languages()), randomFrom(7), share);
      for (const { code, rules } of reviewSchema([model])) {
        const rule = rules[0]?.id ?? '';
        if (code !== 'redundant' || model.constraints.find(({ id }) => id === rule)?.predicate.op === 'unique')
          continue;
        dropped += 1;
        const without: Schema[number] = { ...model, constraints: model.constraints.filter(({ id }) => id !== rule) };
        for (const row of rows)
          assert.equal(
            brokenBy(without, row).size > 0,
            brokenBy(model, row).size > 0,
            `${name}: ${JSON.stringify(row)}`,
          );
      }
    }
    assert.ok(dropped >= 10, `${dropped} rules were dropped`);
  });

  test('the demo gives no alarm, and the rulesets with every kind the one that is meant', () => {
    const alarmsIn = (schema: Schema) =>
      reviewSchema(schema)
        .filter(({ severity }) => severity !== 'note')
        .map(({ code, rules }) => [code, ...rules.map(({ id }) => id)].join(' '));
    assert.deepEqual(alarmsIn(studio), []);
    // Where only one of two moments is given, what is asked of the other is unknown.
    assert.deepEqual(alarmsIn(everyKind), ['conclusion_unknown order.bothOrNone']);
  });
});
