import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { casesFor } from '../../src/core/cases/index.js';
import { schemaOf } from '../../src/core/declare/index.js';
import { problemsOf } from '../../src/core/messages/index.js';
import { ledgerOf } from '../../src/core/targets/index.js';
import { boolean, choice, date, integer, list, ruleset, text } from '../../src/index.js';
import {
  type ColumnSpelling,
  mariadbLayer,
  type OtherNames,
  postgresqlLayer,
  sqliteLayer,
} from '../../src/layers/index.js';
import { type Engine, engineNames, engineWith } from '../fixtures/engines.js';
import { modelIn } from '../fixtures/schema.js';

const kite = ruleset('kite', {
  key: 'sail',
  fields: {
    sail: text({ pattern: /[A-Z]{2}[0-9]/ }),
    stunt: boolean(),
    wind: choice({ light: 'Light', strong: 'Strong' }),
    sewn: date({ min: '2020-01-01', optional: true }),
    ribs: integer({ min: 1, max: 9 }),
    colours: list(text({ pattern: /[a-z]{2,6}/ }), { maxItems: 3, keptAs: 'json' }),
  },
});
const schema = schemaOf([kite]);
const cases = casesFor(modelIn(schema, 'kite'), schema);

const DAY = 86_400_000;
const truth: ColumnSpelling = {
  column: 'is_stunt',
  write: (is: boolean) => (is ? 'Y' : 'N'),
  read: (text) => text === 'Y',
};
const code: ColumnSpelling = {
  write: (wind: string) => (wind === 'light' ? 1 : 2),
  read: (text) => (text === '1' ? 'light' : 'strong'),
};
const day: ColumnSpelling = {
  column: 'sewn_day',
  write: (date: string) => Math.round(Date.parse(`${date}T00:00:00Z`) / DAY),
  read: (text) => new Date(Number(text) * DAY).toISOString().slice(0, 10),
};
const columns = { stunt: truth, wind: code, sewn: day, ribs: 'rib_count' };
const names: { readonly [E in keyof typeof layerOf]: OtherNames } = {
  postgresql: { kite: { columns: { ...columns, colours: { as: 'array' } } } },
  mariadb: { kite: { columns } },
  sqlite: { kite: { columns } },
};

const common = `
  is_stunt char(1) NOT NULL CHECK (is_stunt IN ('Y', 'N')),
  wind integer NOT NULL CHECK (wind IN (1, 2)),
  sewn_day integer CHECK (sewn_day >= 18262),
  rib_count integer NOT NULL CHECK (rib_count BETWEEN 1 AND 9),`;
const tables: { readonly [E in keyof typeof layerOf]: string } = {
  postgresql: `CREATE TABLE kite (sail text PRIMARY KEY CHECK (sail ~ '^[A-Z]{2}[0-9]$'),${common}
  colours text[] NOT NULL DEFAULT '{}' CHECK (cardinality(colours) <= 3 AND ('#' || array_to_string(colours, '#', '?')) ~ '^#([a-z]{2,6}(#[a-z]{2,6})*)?$'))`,
  mariadb: `CREATE TABLE kite (sail varchar(9) COLLATE utf8mb4_nopad_bin PRIMARY KEY CHECK (sail REGEXP '^(?-i)[A-Z]{2}[0-9]\\\\z'),${common}
  colours longtext NOT NULL DEFAULT '[]' CHECK (json_valid(colours) AND json_length(colours) <= 3
    AND colours REGEXP '^(?-i)\\\\[("[a-z]{2,6}"(,"[a-z]{2,6}")*)?]\\\\z'))`,
  sqlite: `CREATE TABLE kite (sail TEXT PRIMARY KEY NOT NULL CHECK (sail GLOB '[A-Z][A-Z][0-9]' AND length(CAST(sail AS BLOB)) = 3),${common}
  colours TEXT NOT NULL DEFAULT '[]' CHECK (typeof(rib_count) = 'integer' AND json_array_length(colours) <= 3 AND colours NOT GLOB '*[^]["a-z,]*'
    AND colours NOT GLOB '*"[a-z]"*' AND colours NOT GLOB '*""*' AND colours NOT GLOB '*[a-z][a-z][a-z][a-z][a-z][a-z][a-z]*'
    AND NOT (colours LIKE '%null%' AND colours NOT LIKE '%"null"%')))`,
};

const layerOf = { postgresql: postgresqlLayer, mariadb: mariadbLayer, sqlite: sqliteLayer };
const tolerates = ['typeConversion', 'blameAtList', 'replacementCharacter', 'roundedFractions'] as const;

for (const name of engineNames) {
  const kind = (name.split(' ')[0] ?? name) as keyof typeof layerOf;
  describe(`columns of ${name} with a form of their own`, () => {
    let engine: Engine;
    before(async () => {
      engine = await engineWith(name, []);
    });
    after(() => engine.close());

    /** What is reported of a table, and how many cases it answered. */
    const probed = async (sql: string, spelled: OtherNames = names[kind]) => {
      await engine.connection.run('DROP TABLE IF EXISTS kite');
      await engine.connection.run(sql);
      const layers = { table: layerOf[kind]({ handle: engine.handle, names: spelled, tolerates }) };
      const answered = await askAll(cases, layers, { schema, folder: '.', output: '.' });
      const { mismatches, answers } = summarise(answered, layers, schema, ledgerOf(schema));
      return {
        reported: mismatches.map(({ rule, kind: is, case: id }) => `${rule} ${is} ${id}`),
        answers,
      };
    };

    test('are written and read in it: tables without a mistake agree', async () => {
      const { reported, answers } = await probed(tables[kind]);
      assert.deepEqual(reported, []);
      assert.ok(answers > cases.length / 4, `${answers} answers`);
    });

    test('a limit that is wrong behind such a form is reported at its rule', async () => {
      const wrong = tables[kind]
        .replace('sewn_day >= 18262', 'sewn_day >= 18000')
        .replace('BETWEEN 1 AND 9', 'BETWEEN 1 AND 10');
      const { reported } = await probed(wrong);
      const rules = new Set(reported.map((one) => one.split(' ')[0]));
      assert.deepEqual([...rules].sort(), ['kite.ribs.max', 'kite.sewn.min']);
    });
  });
}

describe('a form that can be none', () => {
  const unfit: readonly (readonly [
    what: string,
    columns: { readonly [path: string]: ColumnSpelling },
    kind: 'postgresql' | 'sqlite',
  ])[] = [
    ['write without read', { stunt: { write: String } }, 'sqlite'],
    ['a form that does not give back what it is given', { stunt: { write: String, read: () => true } }, 'sqlite'],
    ['a form that fails', { ribs: { write: () => JSON.parse('{'), read: Number } }, 'sqlite'],
    ['an array elsewhere than in PostgreSQL', { colours: { as: 'array' } }, 'sqlite'],
    ['an array of a field that is no list', { stunt: { as: 'array' } }, 'postgresql'],
  ];
  for (const [what, columns, kind] of unfit)
    test(`${what} is refused before anything is probed`, async () => {
      const engine = await engineWith(`${kind} in WASM`, []);
      const layer = layerOf[kind]({ handle: engine.handle, names: { kite: { columns } } });
      await assert.rejects(
        async () => await layer.open({ schema, folder: '.', output: '.' }),
        (error) => problemsOf(error)?.[0]?.code === 'layer_unfit',
      );
      await engine.close();
    });
});
