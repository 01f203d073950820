import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { problemsOf } from '../../src/core/messages/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import { integer, reference, ruleset, text } from '../../src/index.js';
import { mariadbLayer } from '../../src/layers/index.js';
import { type Engine, engineWith } from '../fixtures/engines.js';
import { type Scratch, scratchDatabase } from '../fixtures/servers.js';

const dock = ruleset('dock', { key: 'code', fields: { code: text({ maxLength: 4 }) } });
const boat = ruleset('boat', {
  key: 'name',
  fields: { name: text({ maxLength: 9 }), dock: reference(dock), length: integer({ min: 2, max: 40 }) },
});
const schema = schemaOf([dock, boat]);
const cases = casesFor(schema.find((model) => model.ruleset === 'boat') as (typeof schema)[number], schema);
const LOG = 'CREATE TABLE log (what text) ENGINE=MyISAM;';
const trigger = (table: string, does: string) => `CREATE TRIGGER logged AFTER INSERT ON ${table} FOR EACH ROW ${does};`;

/** Ways from a write to a table without transactions, and what is said of each. `{other}` is another database. */
const ways: readonly (readonly [what: string, sql: string, words: RegExp])[] = [
  [
    'a trigger',
    `${LOG} ${trigger('boat', 'INSERT INTO log VALUES (NEW.name)')}`,
    /"boat" reaches "log", which is kept by MyISAM/,
  ],
  [
    'a procedure',
    `${LOG} CREATE PROCEDURE note(what text) INSERT INTO log VALUES (what); ${trigger('boat', 'CALL note(NEW.name)')}`,
    /"boat" reaches "note", then "log"/,
  ],
  [
    'a function',
    `${LOG} CREATE FUNCTION noted(what text) RETURNS int BEGIN INSERT INTO log VALUES (what); RETURN 1; END; ${trigger('boat', 'SET @noted = noted(NEW.name)')}`,
    /"boat" reaches "noted", then "log"/,
  ],
  [
    "another table's trigger",
    `${LOG} CREATE TABLE trace (what text); ${trigger('boat', 'INSERT INTO trace VALUES (NEW.name)')}
     CREATE TRIGGER traced AFTER INSERT ON trace FOR EACH ROW INSERT INTO log VALUES (NEW.what);`,
    /"boat" reaches "trace", then "log"/,
  ],
  [
    'a view',
    `${LOG} CREATE VIEW \`all of it\` AS SELECT what FROM log; ${trigger('boat', 'INSERT INTO `all of it` VALUES (NEW.name)')}`,
    /"boat" reaches "all of it", then "log"/,
  ],
  [
    'another database',
    `CREATE TABLE {other}.log (what text) ENGINE=Aria TRANSACTIONAL=0; ${trigger('boat', 'INSERT INTO {other}.log VALUES (NEW.name)')}`,
    /"boat" reaches "echo_rule_[^"]+\.log", which is kept by Aria/,
  ],
  [
    'a table that it refers to',
    `${LOG} ${trigger('dock', 'INSERT INTO log VALUES (NEW.code)')}`,
    /reaches (?:"dock", then )?"log"/,
  ],
  [
    'the table itself',
    'ALTER TABLE boat DROP FOREIGN KEY boat_dock_reference; ALTER TABLE boat ENGINE=MyISAM;',
    /the table "boat" is kept by MyISAM/,
  ],
  [
    'a view in its place',
    `ALTER TABLE boat DROP FOREIGN KEY boat_dock_reference; ALTER TABLE boat ENGINE=MyISAM;
     RENAME TABLE boat TO hulls; CREATE VIEW boat AS SELECT * FROM hulls;`,
    /"boat" reaches "hulls", which is kept by MyISAM/,
  ],
];

describe('MariaDB tables that a rollback would not undo', () => {
  let other: Scratch;
  before(async () => {
    other = await scratchDatabase('mariadb');
  });
  after(() => other.remove());
  const otherName = () => new URL(other.url).pathname.slice(1);

  async function inEngine(sql: string, work: (engine: Engine) => Promise<void>): Promise<void> {
    const engine = await engineWith('mariadb', schema);
    try {
      await engine.connection.run(sql.replaceAll('{other}', otherName()));
      await work(engine);
    } finally {
      await engine.connection.run(`DROP TABLE IF EXISTS ${otherName()}.log`);
      await engine.close();
    }
  }
  const probed = ({ handle }: Engine) =>
    askAll(cases, { table: mariadbLayer({ handle }) }, { schema, folder: '.', output: '.' });

  for (const [what, sql, words] of ways)
    test(`reached by ${what}: probing is refused before it begins`, () =>
      inEngine(sql, async (engine) => {
        const [problem] = problemsOf(await probed(engine).catch((error: unknown) => error)) ?? [];
        assert.equal(problem?.code, 'layer_unfit');
        assert.match(problem.message, words);
        for (const table of ['boat', 'dock'])
          assert.deepEqual(await engine.connection.rows(`SELECT * FROM ${table}`), [], table);
      }));

  test('a table of the same name in words, or of another database, is not reached', () =>
    inEngine(
      `CREATE TABLE {other}.log (what text) ENGINE=MyISAM; CREATE TABLE log (what text);
       ${trigger('boat', "INSERT INTO log VALUES (concat(NEW.name, ' to the log')) -- log")}`,
      async (engine) => {
        const layers = { table: mariadbLayer({ handle: engine.handle, compiled: true }) };
        const answered = await askAll(cases, layers, { schema, folder: '.', output: '.' });
        assert.deepEqual(summarise(answered, layers, schema, ledgerOf(schema)).mismatches, []);
        assert.deepEqual(await engine.connection.rows('SELECT * FROM log'), []);
      },
    ));

  test('what a role does not see is noticed after one case, and named', () =>
    inEngine(LOG, async (engine) => {
      const { connection, url } = engine;
      const database = new URL(url ?? '').pathname.slice(1);
      const role = `'${database.slice(-20)}'@'%'`;
      await connection.run(trigger('boat', 'INSERT INTO log VALUES (NEW.name)'));
      await connection.run(
        `CREATE USER ${role} IDENTIFIED BY 'made-up'; GRANT SELECT, INSERT, UPDATE, DELETE ON ${database}.* TO ${role}`,
      );
      const address = new URL(url ?? '');
      [address.username, address.password] = [database.slice(-20), 'made-up'];
      try {
        const layers = { table: mariadbLayer({ url: address.href }) };
        const error = await askAll(cases, layers, { schema, folder: '.', output: '.' }).catch(
          (thrown: unknown) => thrown,
        );
        const [problem] = problemsOf(error) ?? [];
        assert.equal(problem?.code, 'layer_unfit', String(error));
        assert.match(problem.message, /after one case of boat that was undone, `[^`]+`\.`log` has 1 more rows/);
        assert.equal((await connection.rows('SELECT * FROM log')).length, 1, 'one case, and no other');
      } finally {
        await connection.run(`DROP USER ${role}`);
      }
    }));
});
