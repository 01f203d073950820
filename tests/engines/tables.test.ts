import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import { PGlite } from '@electric-sql/pglite';
import initSqlJs from 'sql.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { targets } from '../../src/core/targets/index.js';
import {
  boolean,
  choice,
  date,
  decimal,
  integer,
  list,
  record,
  reference,
  ruleset,
  text,
  time,
  timestamp,
  unique,
  uuid,
} from '../../src/index.js';
import { connectionOf } from '../../src/server/connections/index.js';
import { connectMariadb, scratchDatabase } from '../fixtures/servers.js';

/** A circle of two, a reference to itself, what a deletion does, and what the store fills. */
const wheel = ruleset('wheel', {
  key: 'code',
  fields: {
    code: text({ pattern: /W[0-9]/ }),
    owner: reference('potter', text({ maxLength: 9 }), { optional: true, onDelete: 'clear' }),
  },
});
const potter = ruleset('potter', {
  key: 'handle',
  fields: {
    handle: text({ maxLength: 9 }),
    wheel: reference(wheel, { optional: true }),
    teacher: reference('potter', text({ maxLength: 9 }), { optional: true, onDelete: 'cascade' }),
    mail: text({ maxLength: 20, optional: true }),
    active: boolean({ default: true }),
    home: record({ street: text({ maxLength: 9 }), floor: integer({ optional: true }) }, { optional: true }),
    marks: list(text(), { keptAs: 'json' }),
  },
  rules: (it) => ({
    mailOnce: unique(it.mail).ignoringCase().among(it.active.is(true)),
  }),
  indexes: (it) => ({ byTeacher: [it.teacher, it.handle] }),
});
const ticket = ruleset('ticket', {
  key: 'number',
  fields: {
    number: integer({ generated: 'identity' }),
    mark: uuid({ generated: 'uuid' }),
    made: timestamp({ generated: 'created', fraction: 2 }),
    day: date(),
    at: time({ fraction: 1 }),
    fee: decimal({ precision: 5, scale: 2 }),
    size: choice({ s: 'Small', l: 'Large' }, { default: 's' }),
  },
  rules: (it) => ({ soon: it.day.daysUntil('2026-03-10').isAtMost(9), fewer: it.fee.times(2).isLessThan(50) }),
});
const schema = schemaOf([ticket, potter, wheel]);

interface Engine {
  /** Runs statements; throws what the engine says. */
  run(sql: string): Promise<void>;
  /** The first row of a query, as text or null. */
  row(sql: string): Promise<readonly (string | null)[]>;
  close(): Promise<void>;
}

const asText = (value: unknown) => (value === null || value === undefined ? null : String(value));

const engines: { readonly [name: string]: () => Promise<Engine> } = {
  async postgresql() {
    const database = await PGlite.create();
    await database.exec(targets.postgresql.emit(schema)[0]?.text ?? '');
    return {
      run: async (sql) => void (await database.exec(sql)),
      row: async (sql) =>
        Object.values((await database.query<{ [name: string]: unknown }>(sql)).rows[0] ?? {}).map(asText),
      close: () => database.close(),
    };
  },
  async mariadb() {
    const scratch = await scratchDatabase('mariadb');
    const client = await connectMariadb(scratch);
    const connection = connectionOf(client);
    await connection.run(targets.mariadb.emit(schema)[0]?.text ?? '').catch(async (error) => {
      await client.end();
      throw error;
    });
    return {
      run: async (sql) => void (await connection.run(sql)),
      row: async (sql) => Object.values((await connection.rows(sql))[0] ?? {}).map(asText),
      async close() {
        await client.end();
        await scratch.remove();
      },
    };
  },
  async sqlite() {
    const database = new (await initSqlJs()).Database();
    database.run('PRAGMA foreign_keys = ON');
    database.exec(targets.sqlite.emit(schema)[0]?.text ?? '');
    return {
      run: async (sql) => void database.exec(sql),
      row: async (sql) => (database.exec(sql)[0]?.values[0] ?? []).map(asText),
      close: async () => database.close(),
    };
  },
};

for (const [name, start] of Object.entries(engines)) {
  describe(`what tables hold beside facets: ${name}`, () => {
    let engine: Engine;
    before(async () => {
      engine = await start();
    });
    after(() => engine.close());
    const refused = (sql: string, said: RegExp) => assert.rejects(engine.run(sql), said);

    test('a circle of references, and one to itself', async () => {
      await engine.run("INSERT INTO wheel (code) VALUES ('W1')");
      await engine.run("INSERT INTO potter (handle, wheel) VALUES ('ines', 'W1')");
      await engine.run("UPDATE wheel SET owner = 'ines'; INSERT INTO potter (handle, teacher) VALUES ('oke', 'ines')");
      await refused("UPDATE wheel SET owner = 'nobody'", /foreign key/i);
      await refused("DELETE FROM wheel WHERE code = 'W1'", /foreign key/i);
    });

    test('a deletion is refused, clears, or goes on, as the reference says', async () => {
      await engine.run("UPDATE potter SET wheel = NULL; DELETE FROM potter WHERE handle = 'ines'");
      assert.deepEqual(await engine.row('SELECT count(*) FROM potter'), ['0'], 'her pupil went with her');
      assert.deepEqual(await engine.row('SELECT code, owner FROM wheel'), ['W1', null], 'the wheel stays');
    });

    test('unique with A–Z as a–z, among some only', async () => {
      await engine.run("INSERT INTO potter (handle, mail) VALUES ('a', 'Clay@kiln')");
      await refused(
        "INSERT INTO potter (handle, mail) VALUES ('b', 'cLAY@kiln')",
        /potter_mail_once|potter\.mail|index/i,
      );
      await engine.run("INSERT INTO potter (handle, mail, active) VALUES ('c', 'clay@kiln', false)");
    });

    test('an optional record is all there, as far as it is required, or not at all', async () => {
      await engine.run("INSERT INTO potter (handle, home_street) VALUES ('d', 'Ash 1')");
      await refused("INSERT INTO potter (handle, home_floor) VALUES ('e', 1)", /potter_home_street_required/);
    });

    test('what is left out is filled: defaults, empty lists, and what nobody sends', async () => {
      assert.deepEqual(
        (await engine.row("SELECT active, marks FROM potter WHERE handle = 'a'")).map((value) =>
          value?.replace('true', '1'),
        ),
        ['1', name === 'postgresql' ? '' : '[]'],
      );
      await engine.run("INSERT INTO ticket (day, at, fee) VALUES ('2026-03-02', '09:00:00.5', 12.5)");
      await engine.run("INSERT INTO ticket (day, at, fee) VALUES ('2026-03-03', '09:00:00.5', 12.5)");
      const filled = await engine.row('SELECT number, mark, size, made FROM ticket WHERE number = 2');
      assert.match(filled.join(' '), /^2 [0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12} s \S/);
    });

    test('days between, and a product that is exact or not held', async () => {
      await refused("INSERT INTO ticket (day, at, fee) VALUES ('2026-02-01', '09:00:00.5', 1)", /ticket_soon/);
      const ledger = targets[name as 'postgresql' | 'mariadb' | 'sqlite'].ledger(schema);
      const fidelity = ledger.find(({ constraint }) => constraint === 'ticket.fewer')?.fidelity.is;
      const insert = "INSERT INTO ticket (day, at, fee) VALUES ('2026-03-02', '09:00:00.5', 30)";
      if (fidelity !== 'absent') await refused(insert, /ticket_fewer/);
      else {
        assert.equal(fidelity, 'absent');
        await engine.run(insert);
      }
    });

    test('more digits behind the point, and hours that no day has', async () => {
      const ledger = targets[name as 'postgresql' | 'mariadb' | 'sqlite'].ledger(schema);
      const scale = ledger.find(({ constraint }) => constraint === 'ticket.fee.scale')?.fidelity.is;
      const finer = "INSERT INTO ticket (day, at, fee) VALUES ('2026-03-02', '09:00:00.5', 1.005)";
      if (scale === 'exact') await refused(finer, /ticket_fee_scale/);
      else assert.equal(scale, 'altering');
      await refused("INSERT INTO ticket (day, at, fee) VALUES ('2026-03-02', '24:00:00.0', 1)", /ticket_at_type/);
    });
  });
}
