import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import type { Case, Tolerance } from '../../src/core/model/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import {
  boolean,
  choice,
  date,
  decimal,
  integer,
  list,
  reference,
  ruleset,
  text,
  time,
  unique,
} from '../../src/index.js';
import { mariadbLayer, postgresqlLayer } from '../../src/layers/index.js';
import { type Engine, engineWith } from '../fixtures/engines.js';
import { modelIn } from '../fixtures/schema.js';

const yard = ruleset('yard', { key: 'code', fields: { code: text({ maxLength: 4 }) } });
/** A column of every type that takes what it should not, in silence. */
const hull = ruleset('hull', {
  key: 'name',
  fields: {
    name: text({ maxLength: 10 }),
    line: text({ maxLength: 8, trim: false, optional: true }),
    length: decimal({ precision: 5, scale: 1, min: 1, max: 400 }),
    berths: integer({ min: 0, max: 40 }),
    wood: choice({ oak: 'Oak', larch: 'Larch' }),
    built: date(),
    sails: time(),
    afloat: boolean(),
    number: integer({ min: 1, max: 900 }),
    yard: reference(yard),
    crew: list(text({ maxLength: 9 }), { maxItems: 3 }),
  },
  rules: (it) => ({ once: unique(it.number), pairOnce: unique(it.yard, it.berths) }),
});
const schema = schemaOf([yard, hull]);
const model = modelIn(schema, 'hull');
const cases = casesFor(model, schema);

/** What is wrong with the tables, how they come to be so, and the rules whose cases show it. */
type Mistake = readonly [what: string, sql: string, rules: RegExp];

/** What columns as people write them do: only mistakes that are about it are probed without. */
const usual: readonly Tolerance[] = ['typeConversion', 'roundedFractions'];
const withoutChecks = (...names: readonly string[]) =>
  names.map((name) => `ALTER TABLE hull DROP CONSTRAINT IF EXISTS ${name};`).join('\n');

const postgresql: readonly Mistake[] = [
  [
    'a numeric that rounds',
    `${withoutChecks('hull_length_scale')} ALTER TABLE hull ALTER length TYPE numeric(5, 1);`,
    /hull\.length\.scale/,
  ],
  ['a time that rounds', 'ALTER TABLE hull ALTER sails TYPE time(0);', /hull\.sails\.type/],
  [
    'a constraint that is not validated, and another one that is dropped',
    `${withoutChecks('hull_number_max', 'hull_number_min')} ALTER TABLE hull ADD CHECK (number >= 1) NOT VALID;`,
    /hull\.number\.max/,
  ],
  [
    'a unique constraint that is deferred, over a column too few',
    `ALTER TABLE hull DROP CONSTRAINT hull_pair_once, ADD UNIQUE (yard) DEFERRABLE INITIALLY DEFERRED;`,
    /hull\.pairOnce/,
  ],
  [
    'a generated column that folds letters, and is unique',
    `ALTER TABLE hull ADD folded text GENERATED ALWAYS AS (lower(name)) STORED UNIQUE;`,
    /hull\.name\.unique/,
  ],
  [
    'a varchar that cuts blanks beyond its length',
    `${withoutChecks('hull_name_max_length', 'hull_line_max_length')} ALTER TABLE hull ALTER line TYPE varchar(8);`,
    /hull\.line\.maxLength/,
  ],
  [
    'a char that fills up with blanks',
    `${withoutChecks('hull_line_canonical')} ALTER TABLE hull ALTER line TYPE char(8);`,
    /hull\.line\./,
  ],
  [
    'a unique index that folds letters',
    'CREATE UNIQUE INDEX folded ON hull (lower(name) COLLATE "C");',
    /hull\.name\.unique/,
  ],
  [
    'a unique constraint over fewer columns',
    `ALTER TABLE hull DROP CONSTRAINT hull_pair_once, ADD UNIQUE (berths);`,
    /hull\.pairOnce/,
  ],
  ['a foreign key whose triggers are off', 'ALTER TABLE hull DISABLE TRIGGER ALL;', /hull\.yard\.reference/],
  ['a foreign key that is not there', withoutChecks('hull_yard_reference'), /hull\.yard\.reference/],
  [
    'a trigger that puts small letters in place of capitals',
    `CREATE FUNCTION small() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN NEW.name := lower(NEW.name); RETURN NEW; END';
     CREATE TRIGGER small BEFORE INSERT ON hull FOR EACH ROW EXECUTE FUNCTION small();`,
    /hull\.name\./,
  ],
];
const mariadb: readonly Mistake[] = [
  ['an int that rounds', 'ALTER TABLE hull MODIFY berths int NOT NULL;', /hull\.berths\.type/],
  [
    'a decimal that rounds',
    `${withoutChecks('hull_length_scale')} ALTER TABLE hull MODIFY length decimal(4, 1) NOT NULL;`,
    /hull\.length\.scale/,
  ],
  ['a time that rounds', 'ALTER TABLE hull MODIFY sails time NOT NULL;', /hull\.sails\.type/],
  [
    'an unsigned column that takes zero',
    `${withoutChecks('hull_number_min')} ALTER TABLE hull MODIFY number int unsigned NOT NULL;`,
    /hull\.number\.min/,
  ],
  [
    'a column of three-byte characters',
    `${withoutChecks('hull_line_canonical', 'hull_line_type')} ALTER TABLE hull MODIFY line varchar(9) CHARACTER SET utf8mb3;`,
    /hull\.line\./,
  ],
  [
    'a unique column whose collation takes letters for others',
    'ALTER TABLE hull ADD folded varchar(11) COLLATE utf8mb4_general_ci AS (name) PERSISTENT, ADD UNIQUE (folded);',
    /hull\.name\.unique/,
  ],
  [
    'an ENUM that takes the number of a choice',
    `${withoutChecks('hull_wood_choice', 'hull_wood_type', 'hull_wood_values')} ALTER TABLE hull MODIFY wood enum('oak', 'larch') NOT NULL;`,
    /hull\.wood\./,
  ],
  [
    'a unique constraint over fewer columns',
    'ALTER TABLE hull ADD UNIQUE only_berths (berths);',
    /hull\.pairOnce|hull\.berths/,
  ],
  ['a foreign key that is not there', withoutChecks('hull_yard_reference'), /hull\.yard\.reference/],
];

const engines = {
  postgresql: { layer: postgresqlLayer, mistakes: postgresql, lenient: [] },
  mariadb: {
    layer: mariadbLayer,
    mistakes: mariadb,
    lenient: ["SET sql_mode = ''", "SET sql_mode = 'ALLOW_INVALID_DATES'"],
  },
};

for (const [name, { layer, mistakes, lenient }] of Object.entries(engines)) {
  describe(`columns of ${name} that take what they should not`, () => {
    let engine: Engine;
    before(async () => {
      engine = await engineWith(name as keyof typeof engines, schema);
    });
    after(() => engine.close());
    const probed = async ({ handle }: Engine, of: readonly Case[] = cases, tolerates = usual, compiled = false) => {
      const layers = { table: layer({ handle, tolerates, compiled }) };
      const answered = await askAll(of, layers, { schema, folder: '.', output: '.' });
      return summarise(
        answered,
        layers,
        schema.filter(({ ruleset: own }) => own === 'hull'),
        ledgerOf(schema),
      ).mismatches;
    };

    test('without a mistake, nothing is reported', async () => assert.deepEqual(await probed(engine), []));
    for (const setting of lenient)
      test(`nor is anything in a session that is lenient: ${setting}`, async () => {
        await engine.connection.run(setting);
        // Such a session converts what another one refuses, which the ledger of the compiled columns documents.
        assert.deepEqual(await probed(engine, cases, [], true), []);
      });
    for (const [what, sql, rules] of mistakes)
      test(what, async () => {
        const own = await engineWith(name as keyof typeof engines, schema);
        try {
          await own.connection.run(sql);
          const about = cases.filter(({ constraint }) => rules.test(constraint));
          const tolerates = usual.filter((one) => one !== 'roundedFractions' || !/rounds/.test(what));
          const found = (await probed(own, about, tolerates)).map(({ rule, kind }) => `${rule} ${kind}`);
          assert.ok(
            found.some((one) => rules.test(one)),
            `${found.join(', ') || 'nothing'} is reported`,
          );
        } finally {
          await own.close();
        }
      });
  });
}
