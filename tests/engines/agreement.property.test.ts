import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import fc from 'fast-check';
import { type Answered, askAll, summarise } from '../../src/agreement/index.js';
import { Bases, targetsNamed } from '../../src/core/cases/base.js';
import { casesFor, criteria } from '../../src/core/cases/index.js';
import type { Schema } from '../../src/core/declare/index.js';
import { kinds } from '../../src/core/kinds/index.js';
import { decide } from '../../src/core/meaning/index.js';
import { type Case, fieldAt, type Row, valueAt, withValue } from '../../src/core/model/index.js';
import { operators } from '../../src/core/operators/index.js';
import { ledgerOf, type TargetName, targets } from '../../src/core/targets/index.js';
import {
  formLayer,
  functionLayer,
  type Layer,
  mariadbLayer,
  postgresqlLayer,
  sqliteLayer,
} from '../../src/layers/index.js';
import { compiled } from '../fixtures/project.js';
import { recordsOf, soak } from '../fixtures/records.js';
import { everyKind, strictly, studio } from '../fixtures/schema.js';
import { connectMariadb, connectPostgresql, type Scratch, scratchDatabase } from '../fixtures/servers.js';

const ROWS = soak ? 20_000 : 1_200;

/** The rows of both schemas in one database: it is started once. */
const natural: Schema = [...studio, ...everyKind];
const clockOf = ({ zone }: { readonly zone: string }) => ({ instant: '2026-03-02T09:00:00Z', zone });
/** In columns of the engines' own types, and in those that alter nothing. */
const profiles: { readonly [profile: string]: Schema } = { natural, strict: strictly(natural) };
const embedded: { readonly [name: string]: Layer } = {
  server: functionLayer(),
  form: formLayer(),
  'postgresql in WASM': postgresqlLayer(),
  sqlite: sqliteLayer(),
};
const databases: readonly TargetName[] = ['postgresql', 'mariadb', 'sqlite'];

/**
 * Random records as cases: what is expected is what the meaning says of them. Rows go before the engines as they are;
 * JSON goes before the compiled module, and what it accepts goes on to the engines.
 */
function randomCases(together: Schema, wire: 'json' | 'row'): readonly Case[] {
  const models = together.filter(({ ruleset }) => ruleset !== 'shelf');
  return models.flatMap((model) => {
    const bases = new Bases(together, new Map(), 'optional given');
    const { before } = bases.of(model, 0);
    const others = [1, 2].flatMap((seed) => bases.of(model, seed).before);
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
        on: 'server',
        existing: null,
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
function shownCases(target: string, together: Schema): readonly Case[] {
  return ledgerOf(together).flatMap(({ constraint, target: of, fidelity }) => {
    if (of !== target || fidelity.is !== 'altering' || fidelity.shown === undefined) return [];
    const model = together.find(({ constraints }) => constraints.some(({ id }) => id === constraint));
    const owner = model?.constraints.find(({ id }) => id === constraint)?.owner ?? '';
    if (model === undefined) throw new Error(constraint);
    // What is in a list has the columns of its own kinds, which fields at the top have too.
    if (owner.includes('[]') || fieldAt(model, owner).item !== null || fieldAt(model, owner).derivation !== null)
      return [];
    if (fieldAt(model, owner).generated !== null) return [];
    // From what is not in the grammar of its kind nothing is worked out, and no row is made.
    const sources = Object.values(model.fields).flatMap(({ derivation }) => JSON.stringify(derivation));
    if (sources.some((source) => source.includes(`"path":"${owner}"`))) return [];
    const bases = new Bases(together, new Map(), 'optional given');
    const { row: base, settle } = bases.of(model, 0);
    const good = withValue(base, owner, readAs(valueAt(base, owner), fidelity.shown));
    const row = settle(good, [owner], '');
    const before = targetsNamed(row, model, bases);
    const input = withValue(row, owner, fidelity.shown);
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
        on: 'server',
        existing: null,
        input,
        expected,
      },
    ];
  });
}

/** The value that an engine makes of what is shown, by the type of the field's own values. */
function readAs(value: unknown, shown: unknown): string | number | boolean {
  // A number with a digit more than there is room for is rounded to the one without it.
  const finer = typeof shown === 'number' ? (String(shown).split('.')[1]?.length ?? 0) : 0;
  if (typeof value === 'number') return finer > 0 ? Number(Number(shown).toFixed(finer - 1)) : Number(shown);
  if (typeof value === 'boolean') return true;
  const text = String(shown)
    .replace(/^0(?=[0-9]+\.[0-9]+$)/, '')
    .replace(/^([0-9]{4})([0-9]{2})([0-9]{2})$/, '$1-$2-$3');
  const uuid = text.toLowerCase().replace(/^(.{8})(.{4})(.{4})(.{4})([0-9a-f]{12})$/, '$1-$2-$3-$4-$5');
  // A moment with a digit more than there is room for is cut or rounded to the one before.
  return /[0-9]{2}:[0-9]{2}/.test(text) ? text.replace(/(?:\.1|(\.[0-9]+)1)(Z?)$/, '$1$2') : uuid;
}

for (const [profile, together] of Object.entries(profiles)) {
  describe(`engines, forms and modules beside the meaning: ${profile} columns`, () => {
    const surroundings = compiled(together);
    const ledger = ledgerOf(together);
    // Of what is in no example, every second one, and in the long form all.
    const boundary = together.flatMap((model) => {
      const isSampled = !soak && everyKind.some(({ ruleset }) => ruleset === model.ruleset);
      return casesFor(model, together).filter((_, at) => !isSampled || at % 2 === 0);
    });
    const random = [...randomCases(together, 'row'), ...randomCases(together, 'json')];
    let result: ReturnType<typeof summarise>;
    let layers: { readonly [name: string]: Layer };
    const shown: Answered[] = [];
    const scratches: Scratch[] = [];
    before(async () => {
      const postgresql = await scratchDatabase('postgresql');
      const mariadb = await scratchDatabase('mariadb');
      scratches.push(postgresql, mariadb);
      const client = await connectPostgresql(postgresql);
      await client.query(targets.postgresql.emit(together)[0]?.text ?? '');
      await client.end();
      const connection = await connectMariadb(mariadb);
      await connection.query(targets.mariadb.emit(together)[0]?.text ?? '');
      await connection.end();
      // What has no columns is the same in both profiles.
      layers = {
        ...(profile === 'natural' ? embedded : { sqlite: sqliteLayer() }),
        postgresql: postgresqlLayer({ url: postgresql.url, compiled: true }),
        mariadb: mariadbLayer({ url: mariadb.url, compiled: true }),
      };
      const answered = await askAll([...boundary, ...random], layers, surroundings);
      result = summarise(answered, layers, together, ledger);
      for (const name of databases) {
        shown.push(...(await askAll(shownCases(name, together), { [name]: layers[name] as Layer }, surroundings)));
      }
    });
    after(async () => {
      surroundings.remove();
      for (const scratch of scratches) await scratch.remove();
    });

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
      assert.ok(shown.length > (profile === 'natural' ? 60 : 10), `${shown.length} alterations are shown`);
      for (const { case: one, layer, answer } of shown) {
        const path =
          together.flatMap(({ constraints }) => constraints).find(({ id }) => id === one.constraint)?.owner ?? '';
        const stored = 'accepted' in answer ? valueAt(answer.accepted ?? {}, path) : null;
        assert.ok(stored !== null, `${layer} ${one.constraint}: ${JSON.stringify(answer)}`);
        assert.notEqual(stored, valueAt(one.input as Row, path), `${layer} ${one.constraint}`);
      }
    });

    test('every kind is hit in every target, and every operator that a target holds', () => {
      const hit = (rule: string, layer: string) =>
        result.byRule.some((row) => row.rule === rule && row.layer === layer && row.cases > 0);
      for (const [layer, { target }] of Object.entries(layers)) {
        for (const kind of Object.keys(kinds)) {
          const rules = together.flatMap((model) =>
            model.constraints.filter(
              ({ owner, facet }) => facet && owner !== '' && fieldAt(model, owner).kind === kind,
            ),
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
      // Columns of text have no last number.
      const wanted = Object.keys(criteria).filter((one) => profile === 'natural' || one !== 'columns');
      for (const criterion of wanted) {
        assert.ok(
          boundary.some((one) => one.criterion === criterion),
          criterion,
        );
      }
    });
  });
}
