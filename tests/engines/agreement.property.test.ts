import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import fc from 'fast-check';
import { type Answered, askAll, summarise } from '../../src/agreement/index.js';
import { baseOf, targetsNamed } from '../../src/core/cases/base.js';
import { casesFor, criteria } from '../../src/core/cases/index.js';
import type { Schema } from '../../src/core/declare/index.js';
import { kinds } from '../../src/core/kinds/index.js';
import { decide } from '../../src/core/meaning/index.js';
import { type Case, fieldAt } from '../../src/core/model/index.js';
import { operators } from '../../src/core/operators/index.js';
import { targetNames, targets } from '../../src/core/targets/index.js';
import { formLayer, functionLayer, type Layer, postgresqlLayer, sqliteLayer } from '../../src/layers/index.js';
import { compiled } from '../fixtures/project.js';
import { recordsOf, soak } from '../fixtures/records.js';
import { everyKind, studio } from '../fixtures/schema.js';

const ROWS = soak ? 20_000 : 2_000;

/** The rows of both schemas in one database: it is started once. */
const together: Schema = [...studio, ...everyKind];
const clockOf = ({ zone }: { readonly zone: string }) => ({ instant: '2026-03-02T09:00:00Z', zone });
const ledger = targetNames.flatMap((name) => targets[name].ledger(together));
const layers: { readonly [name: string]: Layer } = {
  server: functionLayer(),
  form: formLayer(),
  postgresql: postgresqlLayer(),
  sqlite: sqliteLayer(),
};

/**
 * Random records as cases: what is expected is what the meaning says of them. Rows go before the engines as they are;
 * JSON goes before the compiled module, and what it accepts goes on to the engines.
 */
function randomCases(wire: 'json' | 'row'): readonly Case[] {
  const models = together.filter(({ ruleset }) => ruleset !== 'shelf');
  return models.flatMap((model) => {
    const { before } = baseOf(model, together, 0);
    const others = [1, 2].flatMap((seed) => baseOf(model, together, seed).before);
    const stored = [...new Map([...before, ...others].map((one) => [JSON.stringify(one), one])).values()];
    const rows = fc.sample(recordsOf(model, together, wire), { numRuns: Math.ceil(ROWS / models.length), seed: 7 });
    return rows.map(
      (input, at): Case => ({
        id: `${model.ruleset}/random/${wire}/${at}`,
        ruleset: model.ruleset,
        constraint: `${model.ruleset}.type`,
        criterion: 'random',
        reason: 'a random record',
        does: 'insert',
        wire,
        clock: clockOf(model),
        before: stored,
        input,
        expected: decide(model, input, wire, {
          clock: clockOf(model),
          store: (of) => stored.filter(({ ruleset }) => ruleset === of).map(({ row }) => row),
        }),
      }),
    );
  });
}

/** What the ledger shows of each alteration, as a row that is valid but for that value. */
function shownCases(target: string): readonly Case[] {
  return ledger.flatMap(({ constraint, target: of, fidelity }) => {
    if (of !== target || fidelity.is !== 'altering' || fidelity.shown === undefined) return [];
    const model = together.find(({ constraints }) => constraints.some(({ id }) => id === constraint));
    const path = constraint.split('.')[1];
    if (model === undefined || path === undefined) throw new Error(constraint);
    const { row: base, settle } = baseOf(model, together, 0);
    const row = settle({ ...base, [path]: readAs(base[path], fidelity.shown) }, [path], '');
    const before = targetsNamed(row, model, together);
    const input = { ...row, [path]: fidelity.shown };
    const expected = decide(model, input, 'row', { store: () => [], clock: clockOf(model) });
    const clock = clockOf(model);
    const about = { constraint, criterion: 'shown', reason: 'what the ledger shows', clock };
    return [
      {
        ...about,
        id: `${constraint}/shown/${target}`,
        ruleset: model.ruleset,
        does: 'insert',
        wire: 'row',
        before,
        input,
        expected,
      },
    ];
  });
}

/** The value that an engine makes of what is shown, by the type of the field's own values. */
function readAs(value: unknown, shown: unknown): string | number | boolean {
  if (typeof value === 'number') return Number(shown);
  if (typeof value === 'boolean') return true;
  return String(shown).replace(/^([0-9]{4})([0-9]{2})([0-9]{2})$/, '$1-$2-$3');
}

describe('engines, forms and modules beside the meaning', () => {
  const surroundings = compiled(together);
  const boundary = together.flatMap((model) => casesFor(model, together));
  const random = [...randomCases('row'), ...randomCases('json')];
  let result: ReturnType<typeof summarise>;
  const shown: Answered[] = [];
  before(async () => {
    const answered = await askAll([...boundary, ...random], layers, surroundings);
    result = summarise(answered, layers, together, ledger);
    for (const name of ['postgresql', 'sqlite'] as const) {
      shown.push(...(await askAll(shownCases(name), { [name]: layers[name] as Layer }, surroundings)));
    }
  });
  after(surroundings.remove);

  test(`${random.length} random records and ${boundary.length} boundary cases: no layer disagrees`, () => {
    const told = result.mismatches.map(({ layer, rule, kind, input, reason, observed }) => ({
      layer,
      rule,
      kind,
      input: JSON.stringify(input),
      reason,
      observed: JSON.stringify(observed),
    }));
    assert.deepEqual(told, []);
  });

  test('both verdicts occur often among the random records', () => {
    const accepted = random.filter(({ expected }) => 'accepted' in expected).length;
    assert.ok(accepted > random.length / 20, `${accepted} of ${random.length} are valid`);
    assert.ok(accepted < (random.length * 19) / 20, `${accepted} of ${random.length} are valid`);
  });

  test('what the ledger tells is real: each known difference is of a rule that it marks', () => {
    assert.ok(result.known.length > 0, 'some differences are known');
    for (const { rule, layer } of result.known) {
      const target = layers[layer]?.target;
      const entry = ledger.find((one) => one.constraint === rule && one.target === target);
      assert.notEqual(entry?.fidelity.is, 'exact', `${rule} on ${target}`);
    }
  });

  test('what the ledger shows of each alteration is stored as something else', () => {
    assert.ok(shown.length > 20, `${shown.length} alterations are shown`);
    for (const { case: one, layer, answer } of shown) {
      const path = one.constraint.split('.')[1] ?? '';
      const stored = 'accepted' in answer ? answer.accepted[path] : undefined;
      assert.ok(stored !== undefined, `${layer} ${one.constraint}: ${JSON.stringify(answer)}`);
      assert.notEqual(stored, (one.input as { [path: string]: unknown })[path], `${layer} ${one.constraint}`);
    }
  });

  test('every kind is hit in every target, and every operator that a target holds', () => {
    const hit = (rule: string, layer: string) =>
      result.byRule.some((row) => row.rule === rule && row.layer === layer && row.cases > 0);
    for (const [layer, { target }] of Object.entries(layers)) {
      for (const kind of Object.keys(kinds)) {
        const rules = together.flatMap((model) =>
          model.constraints.filter(({ owner, facet }) => facet && owner !== '' && fieldAt(model, owner).kind === kind),
        );
        const holding = rules.filter(({ id }) =>
          ledger.some((one) => one.constraint === id && one.target === target && one.fidelity.is !== 'absent'),
        );
        assert.ok(rules.length > 0, `no field of the kind ${kind}`);
        assert.ok(holding.length === 0 || holding.some(({ id }) => hit(id, layer)), `${kind} on ${target}`);
      }
      for (const operator of Object.keys(operators)) {
        const holding = together
          .flatMap(({ constraints }) => constraints)
          .filter(({ predicate }) => JSON.stringify(predicate).includes(`"op":"${operator}"`))
          .filter(({ id }) =>
            ledger.some((one) => one.constraint === id && one.target === target && one.fidelity.is !== 'absent'),
          );
        assert.ok(holding.length === 0 || holding.some(({ id }) => hit(id, layer)), `${operator} on ${target}`);
      }
    }
  });

  test('every criterion gives cases', () => {
    for (const criterion of Object.keys(criteria)) {
      assert.ok(
        boundary.some((one) => one.criterion === criterion),
        criterion,
      );
    }
  });
});
