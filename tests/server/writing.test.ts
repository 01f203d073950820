import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import { firing } from '../../examples/kiln-bookings/rules/firing.rules.js';
import { kiln } from '../../examples/kiln-bookings/rules/kiln.rules.js';
import { potter } from '../../examples/kiln-bookings/rules/potter.rules.js';
import { casesFor } from '../../src/core/cases/index.js';
import type { Row, Violation } from '../../src/core/model/index.js';
import { tableTargets } from '../../src/core/targets/index.js';
import { messagesIn, polish } from '../../src/languages.js';
import { insertRecord, violationsFrom, write } from '../../src/server/index.js';
import { insertRows } from '../../src/server/insert.js';
import { NoRows, rowsOf } from '../../src/server/rows.js';
import { type Engine, engineNames, engineWith } from '../fixtures/engines.js';
import { modelIn, studio } from '../fixtures/schema.js';

const rulesets = [firing, kiln, potter];
const oven = { code: 'K01', name: 'Big oven', hottest: 1300 };
const ines = {
  handle: 'ines',
  name: 'Ines',
  phone: '+48 600 100',
  email: 'ines@kiln.example',
  memberSince: '2020-01-01',
  inducted: true,
};
const bowls = {
  tag: 'AB-0001',
  kiln: 'K01',
  potter: 'ines',
  title: 'Bowls',
  pieces: 4,
  peak: 1200,
  glaze: 'none',
  vented: false,
  fee: null,
  loadOn: '2026-03-02',
  collectOn: null,
  shelf: null,
  helpers: ['Tomek', 'Ewa'],
  notes: null,
};

const told = (violations: readonly Violation[]) =>
  violations.map(({ rule, pointer }) => `${rule} at ${pointer}`).sort();

for (const name of engineNames) {
  describe(`writing to ${name}`, () => {
    let engine: Engine;
    before(async () => {
      engine = await engineWith(name, studio);
      await insertRecord(engine.handle, kiln, oven);
      await insertRecord(engine.handle, potter, ines);
    });
    after(() => engine.close());

    const count = async (table: string) =>
      Number((await engine.connection.rows(`SELECT count(*) AS there FROM ${table}`))[0]?.there);
    const refused = async (
      ruleset: (typeof rulesets)[number],
      record: Row,
      options: { readonly key?: unknown } = {},
    ): Promise<readonly string[]> => {
      const written = await insertRecord(engine.handle, ruleset, record, { rulesets, ...options });
      return written.ok ? ['it went in'] : told(written.violations);
    };

    test('a record goes in with its list and comes back; a second one with a taken key names the rule', async () => {
      const written = await insertRecord(engine.handle, firing, bowls, { rulesets });
      assert.deepEqual(written, { ok: true, value: bowls });
      assert.deepEqual(await refused(firing, { ...bowls, loadOn: '2026-03-03' }), ['firing.tag.unique at /tag']);
      assert.equal(await count('firings_helpers'), 2);
    });

    test('one answer names every rule: two taken values, and two references that lead nowhere', async () => {
      assert.deepEqual(await refused(potter, { ...ines, handle: 'oke' }), [
        'potter.emailTakenOnce at /email',
        'potter.phoneTakenOnce at /phone',
      ]);
      const strange = { ...bowls, tag: 'AB-0002', kiln: 'K09', potter: 'nobody', loadOn: '2026-04-01' };
      assert.deepEqual(await refused(firing, strange), [
        'firing.kiln.reference at /kiln',
        'firing.potter.reference at /potter',
      ]);
      assert.deepEqual(await refused(firing, { ...bowls, tag: 'AB-0002' }), ['firing.oneFiringPerDay at /kiln']);
    });

    test('the item that breaks a rule is named by its index', async () => {
      const twice = { ...bowls, tag: 'AB-0003', loadOn: '2026-04-02', helpers: ['Tomek', 'Ewa', 'Tomek'] };
      assert.deepEqual(await refused(firing, twice), ['firing.helpers.distinct at /helpers/2']);
      const five = { ...twice, helpers: ['a', 'b', 'c', 'd', 'e'] };
      assert.deepEqual(await refused(firing, five), ['firing.helpers.maxItems at /helpers']);
      assert.equal(await count('firings'), 1, 'nothing is left of a refused record');
    });

    test('a record that is changed is no duplicate of itself', async () => {
      const { connection } = engine;
      const { wire } = tableTargets[connection.engine];
      const rename = (phone: string, by: string) => () =>
        connection.rows(
          `UPDATE potters SET phone = ${wire.place(1)}, email = ${wire.place(2)} WHERE handle = ${wire.place(3)}`,
          [phone, 'other@kiln.example', by],
        );
      const other = { ...ines, handle: 'oke', phone: '+48 600 200', email: 'oke@kiln.example' };
      assert.equal((await insertRecord(engine.handle, potter, other)).ok, true);
      const changed = { ...other, phone: ines.phone };
      const written = await write(engine.handle, potter, changed, rename(ines.phone, 'oke'), { key: 'oke' });
      assert.deepEqual(written.ok ? 'it went in' : told(written.violations), ['potter.phoneTakenOnce at /phone']);
      const same = await write(engine.handle, potter, other, rename(other.phone, 'oke'), { key: 'oke' });
      assert.equal(same.ok, true);
    });

    test('within a transaction only the refused write is undone, and the connection goes on', async () => {
      const { connection } = engine;
      await connection.run('BEGIN');
      assert.equal((await insertRecord(engine.handle, kiln, { ...oven, code: 'K02' })).ok, true);
      assert.equal((await insertRecord(engine.handle, kiln, { ...oven, code: 'K02' })).ok, false);
      assert.equal((await insertRecord(engine.handle, kiln, { ...oven, code: 'K03' })).ok, true);
      await connection.run('COMMIT');
      assert.equal(await count('kilns'), 3);
    });

    test('a deletion is refused where something refers to the record', async () => {
      const written = await write(
        engine.handle,
        kiln,
        null,
        () => engine.connection.run("DELETE FROM kilns WHERE code = 'K01'"),
        { rulesets },
      );
      assert.deepEqual(written.ok ? 'it is gone' : told(written.violations), ['kiln.inUse at ']);
      if (!written.ok && engine.connection.engine !== 'sqlite') {
        assert.equal(written.violations[0]?.message, 'This is still in use: Firing refers to it.');
      }
    });

    test('messages are in the language that is asked for', async () => {
      const messages = { ...messagesIn(firing, polish), ...messagesIn(kiln, polish) };
      const taken = await insertRecord(engine.handle, firing, bowls, { rulesets, messages });
      assert.ok(!taken.ok, 'it is refused');
      for (const { message } of taken.violations) assert.match(message, /zajęt/);
      const gone = () => engine.connection.run("DELETE FROM kilns WHERE code = 'K01'");
      const kept = await write(engine.handle, kiln, null, gone, { rulesets, messages });
      assert.ok(!kept.ok, 'it is refused');
      assert.match(kept.violations[0]?.message ?? '', /^To jest jeszcze w użyciu/);
    });

    test('what says of no rule that it was broken is passed on untouched', async () => {
      const wrong = async (): Promise<unknown> => engine.connection.run('SELECT * FROM nothing_of_the_kind');
      const first = await wrong().catch((error: unknown) => error);
      assert.throws(
        () => violationsFrom(first, kiln),
        (error) => error === first,
      );
      const mine = new Error('the lights went out');
      await assert.rejects(
        write(engine.handle, kiln, oven, () => {
          throw mine;
        }),
        (error) => error === mine,
      );
      assert.equal(await count('kilns'), 3, 'the connection is usable');
    });

    test('an error that another library wrapped is read all the same', async () => {
      const { connection } = engine;
      const error = await connection
        .rows("INSERT INTO kilns (code, name, hottest) VALUES ('K7', 'Oven', 1000)")
        .catch((cause: unknown) => new Error('insert failed', { cause }));
      assert.deepEqual(told(violationsFrom(error, kiln)), ['kiln.code.pattern at /code']);
    });

    test('two writers of one value at the same moment: one wins, the other gets the message', async (context) => {
      const second = await engine.another();
      if (second === null) return context.skip('the engine has one connection only');
      const first = { ...ines, handle: 'first', phone: '+1 22 33', email: null };
      const loser = { ...first, handle: 'second' };
      await engine.connection.run('BEGIN');
      assert.equal((await insertRecord(engine.handle, potter, first)).ok, true);
      const waiting = insertRecord(second.handle, potter, loser);
      await new Promise((resolve) => setTimeout(resolve, 200));
      await engine.connection.run('COMMIT');
      const written = await waiting;
      assert.deepEqual(written.ok ? 'it went in' : told(written.violations), ['potter.phoneTakenOnce at /phone']);
      await second.close();
    });

    test('every boundary case that is refused gives the violations that the validator gives', async () => {
      const { connection } = engine;
      const ledger = tableTargets[connection.engine].ledger(studio);
      let asked = 0;
      await connection.run('BEGIN');
      for (const one of studio.flatMap((model) => casesFor(model, studio))) {
        if (one.wire !== 'row' || one.does === 'delete' || !('refused' in one.expected)) continue;
        const { refused: expected, possibly } = one.expected;
        const ruleset = rulesets.find(({ name: called }) => called === one.ruleset);
        if (ruleset === undefined || expected.some(({ rule }) => /\.(?:keys|limits)$/.test(rule))) continue;
        await connection.run('SAVEPOINT before_case');
        await connection.run('DELETE FROM firings');
        await connection.run('DELETE FROM kilns');
        await connection.run('DELETE FROM potters');
        for (const { ruleset: of, row } of one.before)
          await insertRows(connection, await rowsOf(modelIn(studio, of), row, studio, connection.engine));
        // What is no value of a column has no row to be refused.
        const written = await insertRecord(engine.handle, ruleset, one.input as Row, { rulesets }).catch((error) => {
          if (error instanceof NoRows) return null;
          throw error;
        });
        await connection.run('ROLLBACK TO SAVEPOINT before_case');
        if (written === null) continue;
        const rules = expected.map(({ rule }) => rule);
        if (written.ok) {
          const marked = ledger.some(
            ({ constraint, fidelity }) => rules.includes(constraint) && fidelity.is !== 'exact',
          );
          assert.ok(marked, `${one.id} went in`);
          continue;
        }
        const more = told(possibly);
        asked += 1;
        assert.deepEqual(
          told(written.violations).filter((line) => !more.includes(line)),
          told(expected),
          one.id,
        );
      }
      await connection.run('ROLLBACK');
      assert.ok(asked > 150, `${asked} cases were refused`);
    });
  });
}

test('a pool is refused: its statements go by several connections', async () => {
  const { default: pg } = await import('pg');
  const pool = new pg.Pool();
  await assert.rejects(
    write(pool as never, kiln, oven, () => null),
    (error: { problems: readonly { code: string }[] }) => error.problems[0]?.code === 'handle_pool',
  );
});
