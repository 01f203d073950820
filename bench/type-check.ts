import { spawnSync } from 'node:child_process';
import { resolve } from 'node:path';
import { temporaryFolder } from '../tests/fixtures/project.js';
import { figure } from './measure.js';

const fields = `
    tag: text({ pattern: /[A-Z]{2}-[0-9]{4}/, label: 'Firing tag' }), title: text({ minLength: 3, maxLength: 60 }),
    buyer: email({ case: 'lower' }), page: url({ optional: true }), pieces: integer({ min: 1, max: 40 }),
    peak: decimal({ precision: 5, scale: 1, min: 600, max: 1320 }), weight: decimal({ precision: 20, scale: 4, optional: true }),
    glaze: choice({ none: 'No glaze', celadon: 'Celadon', lustre: 'Lustre' }), size: choice({ s: 'Small', l: 'Large' }, { ordered: true }),
    vented: boolean(), terms: boolean({ must: true }), loadOn: date(), collectOn: date({ optional: true }),
    at: time({ optional: true }), made: timestamp({ optional: true }), notes: text({ lines: 'many', maxLength: 500, optional: true }),
    shelf: record({ bay: text({ maxLength: 4 }), level: integer({ min: 1, max: 6 }) }, { optional: true }),
    helpers: list(text({ maxLength: 30 }), { maxItems: 4 }), parts: list(record({ name: text(), count: integer() })),
    kiln: reference(kiln),`;

function rulesetText(at: number): string {
  return `
export const set${at} = ruleset('set${at}', {
  fields: {${fields}
  },
  rules: (it) => ({
    collectAfterLoading: it.collectOn.isAfter(it.loadOn),
    lustreNeedsVenting: rule({ holds: it.glaze.is('lustre').implies(it.vented.is(true)), blame: it.vented, message: 'Open it.' }),
    large: it.size.isAtLeast('l').implies(it.pieces.isAtMost(20)), counted: it.parts.sum((part) => part.count).isAtMost(it.pieces),
    named: it.helpers.each((helper) => helper.length.isAtLeast(2)), once: unique(it.kiln, it.loadOn),
  }),
});
export type Set${at} = AcceptedOf<typeof set${at}>;
export const read${at} = (row: Set${at}): string | null => row.shelf?.bay ?? row.helpers[0] ?? row.collectOn;`;
}

const head = `import { type AcceptedOf, boolean, choice, date, decimal, email, integer, list, record, reference, rule, ruleset, text, time, timestamp, unique, url } from 'echo-rule';
const kiln = ruleset('kiln', { key: 'code', fields: { code: text() } });`;

/** The compiler's own time in seconds for a file of so many rulesets; the least of three. */
function seconds(count: number): number {
  const { folder, remove } = temporaryFolder({
    'sets.ts': `${head}\n${Array.from({ length: count }, (_, at) => rulesetText(at)).join('\n')}\n`,
    'package.json': '{"type":"module"}',
    'tsconfig.json': JSON.stringify({
      extends: resolve('tsconfig.json'),
      compilerOptions: {
        paths: { 'echo-rule': [resolve('src/index.ts')] },
        typeRoots: [resolve('node_modules/@types')],
        noUnusedLocals: false,
      },
      include: ['*.ts'],
    }),
  });
  const compiler = resolve('node_modules/typescript/bin/tsc');
  const times = [0, 1, 2].map(() => {
    const start = performance.now();
    const { status, stdout } = spawnSync(process.execPath, [compiler, '-p', folder], { encoding: 'utf8' });
    if (status !== 0) throw new Error(stdout);
    return (performance.now() - start) / 1000;
  });
  remove();
  return Math.min(...times);
}

/** Checking the types of a file of 50 and of 200 rulesets of 20 fields, beyond a file with none. */
export function benchTypeCheck(): void {
  const empty = seconds(0);
  const fifty = seconds(50) - empty;
  const many = seconds(200) - empty;
  figure('type checking 50 rulesets of 20 fields: s beyond none', fifty, 'under 2');
  figure('type checking 200 rulesets of 20 fields: s beyond none', many, '');
  figure('  beside 50', many / fifty, 'about 4: linear');
}
