import {
  type FunctionAnswer,
  formLayer,
  functionLayer,
  mariadbLayer,
  postgresqlLayer,
  sqliteLayer,
} from 'echo-rule/layers';
import type * as server from './server.ts';

type Server = typeof server;
type Saved = ReturnType<Server['saveFiring']>;

/**
 * The layers by hand of one folder. MariaDB has no form that runs in this process: its tables are probed where
 * `STUDIO_MARIADB` is the address of a database that holds those of `tables.mariadb.sql`.
 */
export const layers = {
  server: functionLayer({
    modules: { firing: 'server.ts' },
    wires: ['json'],
    call: (module, input) => (module as Server).saveFiring(input as { [field: string]: unknown }),
    answer: (result): FunctionAnswer => {
      const said = result as Saved;
      if ('saved' in said) return { accepted: said.saved };
      return { refused: Object.entries(said.errors).map(([field, message]) => ({ field, message })) };
    },
    store: {
      clear: (module) => {
        const { firings, kilns, potters } = module as Server;
        firings.length = 0;
        kilns.clear();
        potters.clear();
      },
      put: (module, ruleset, row) => {
        const { firings, kilns, potters } = module as Server;
        if (ruleset === 'kiln') kilns.add(String(row.code));
        else if (ruleset === 'potter') potters.add(String(row.handle));
        else firings.push(row as Server['firings'][number]);
      },
      rows: (module) => (module as Server).firings,
    },
  }),
  form: formLayer({ files: { firing: 'form.html' } }),
  // Their columns read what a driver sends, as columns do: that is known, and nobody's mistake.
  postgresql: postgresqlLayer({ sql: 'tables.postgresql.sql', rulesets: ['firing'], tolerates: ['typeConversion'] }),
  sqlite: sqliteLayer({ sql: 'tables.sqlite.sql', rulesets: ['firing'], tolerates: ['typeConversion'] }),
  ...(process.env.STUDIO_MARIADB === undefined
    ? {}
    : {
        mariadb: mariadbLayer({
          // biome-ignore lint/suspicious/noTemplateCurlyInString: the variable is read when the layer is opened
          url: '${STUDIO_MARIADB}',
          rulesets: ['firing'],
          tolerates: ['typeConversion', 'roundedFractions'],
        }),
      }),
};
