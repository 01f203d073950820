import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { resolve } from 'node:path';
import { after, describe, test } from 'node:test';
import { temporaryFolder } from '../../fixtures/project.js';

const head = `import { type AcceptedOf, type HandlesOf, type StoredOf, type SubmittedOf, atLeastGiven, boolean, choice, custom, date, decimal, extend, integer, join, list, lookUp, not, record, reference, rule, ruleset, text, time, timestamp, today, unique, uuid, validator } from 'echo-rule';
const kiln = ruleset('kiln', { key: 'code', fields: { code: text(), hottest: integer({ optional: true }) } });
const oven = ruleset('oven', { key: 'code', fields: { code: text() } });
const fields = {
  tag: text(), pieces: integer(), glaze: choice({ ash: 'Ash', rust: 'Rust' }), loadOn: date(), collectOn: date({ optional: true }),
  vented: boolean(), kiln: reference(kiln), spare: reference(kiln, { optional: true }), oven: reference(oven),
};
const firing = ruleset('firing', { fields });
const more = {
  fee: decimal({ precision: 5, scale: 2 }), weight: decimal({ precision: 20, scale: 4, optional: true }), at: time({ optional: true }), made: timestamp({ generated: 'created' }),
  size: choice({ s: 'Small', l: 'Large' }, { ordered: true }), grade: choice([[10, 'First'], [20, 'Second']], { default: 10 }),
  shelf: record({ bay: text(), level: integer({ optional: true }) }, { optional: true }), parts: list(record({ name: text(), count: integer() })), names: list(text()),
  slug: text({ generated: 'derived' }), digest: text({ enforcedIn: ['database'] }), loadOn: date(),
};
const order = ruleset('order', { fields: more, derived: (it) => ({ slug: it.shelf.bay.slug() }) });
type Same<A, B> = (<T>() => T extends A ? 1 : 2) extends <T>() => T extends B ? 1 : 2 ? true : false;
function is<T extends true>(): T | void {}
`;

/** What must compile. */
const right: { readonly [what: string]: string } = {
  'a canonical record': `is<Same<AcceptedOf<typeof firing>, { tag: string; pieces: number; glaze: 'ash' | 'rust'; loadOn: string; collectOn: string | null; vented: boolean; kiln: string; spare: string | null; oven: string }>>();`,
  'what may be sent as JSON': `const sent: SubmittedOf<typeof kiln> = { code: 'K01' }; is<Same<SubmittedOf<typeof kiln>, { code: string; hottest?: number | null }>>(); void sent;`,
  'what a form sends': `is<Same<SubmittedOf<typeof firing, 'form'>, { tag: string; pieces: string; glaze: string; loadOn: string; kiln: string; oven: string; collectOn?: string; vented?: string; spare?: string }>>();`,
  'the value of a validator': `const checked = validator(firing).check({}); if (checked.ok) is<Same<typeof checked.value.glaze, 'ash' | 'rust'>>();`,
  'a canonical record of records and lists': `is<Same<AcceptedOf<typeof order>, { fee: number; weight: string | null; at: string | null; size: 's' | 'l'; grade: 10 | 20; shelf: { bay: string; level: number | null } | null; parts: readonly { name: string; count: number }[]; names: readonly string[]; loadOn: string }>>();`,
  'a stored record': `is<Same<StoredOf<typeof order>['made' | 'digest' | 'slug'], string>>();`,
  'what may be sent of records and lists': `const sent: SubmittedOf<typeof order> = { fee: 1.5, size: 's', loadOn: '2026-03-02', shelf: { bay: 'A' } }; void sent; const form: SubmittedOf<typeof order, 'form'> = { fee: '1.5', size: 's', loadOn: '2026-03-02', 'shelf[bay]': 'A', 'names[]': ['a', 'b'] }; void form;`,
  'rules over all domains': `ruleset('x', { fields: more, derived: (it) => ({ slug: it.shelf.bay.slug() }), rules: (it) => ({
    a: it.weight.isAtMost('12345678901234567.5').and(it.fee.times(3).plus(it.weight).isLessThan('0.5')), b: it.size.isAtLeast('l').or(it.grade.is(20)),
    c: it.parts.each((part) => part.count.isAtLeast(1)).and(it.names.some((name) => name.startsWith('a'))), d: it.parts.sum((part) => part.count).isAtMost(it.names.count()),
    e: it.loadOn.isAfter(today()).and(it.loadOn.daysUntil('2026-01-01').isLessThan(3)), f: atLeastGiven(1, it.at, it.weight), g: it.shelf.level.given(),
    h: custom([it.fee, it.shelf.bay], (fee: number, bay: string) => fee > bay.length), i: lookUp([it.size]), j: unique(it.shelf.bay).ignoringCase().among(it.fee.isMoreThan(0)),
  }) });`,
  'bundles joined and a ruleset extended': `const both = join({ a: text() }, { b: integer() }); const rules = (it: HandlesOf<typeof both>) => ({ r: it.b.is(it.a.length) });
    const base = ruleset('base', { fields: both, rules }); const wide = extend(base, 'wide', { add: { c: date() }, change: { a: text({ optional: true }) }, rules: (it) => ({ s: it.c.given() }) }); is<Same<AcceptedOf<typeof wide>, { a: string | null; b: number; c: string }>>();`,
  'rules over fields': `ruleset('x', { fields, rules: (it) => ({
    a: it.collectOn.isAfter(it.loadOn), b: it.pieces.isAtMost(3).or(it.tag.length.is(it.pieces)), c: unique(it.kiln, it.loadOn),
    d: rule({ holds: it.glaze.is('ash').implies(it.vented.is(true)), blame: it.vented, message: 'Open it.' }),
    e: not(it.kiln.is(it.spare)), f: it.glaze.isOneOf('ash', 'rust').and(it.collectOn.missing()), g: it.loadOn.isBefore('2026-01-01'),
  }) });`,
};

/** What must not compile, and what the compiler says of it. */
const wrong: { readonly [what: string]: readonly [code: string, said: RegExp] } = {
  'a field that is not there': [
    `ruleset('x', { fields, rules: (it) => ({ a: it.piece.is(3) }) });`,
    /Property 'piece' does not exist.*Did you mean 'pieces'/,
  ],
  'a date compared with a text': [
    `ruleset('x', { fields, rules: (it) => ({ a: it.loadOn.isAfter(it.tag) }) });`,
    /TextHandle' is not assignable to parameter of type 'string \| DateTerm'/,
  ],
  'a number compared with text': [
    `ruleset('x', { fields, rules: (it) => ({ a: it.pieces.is('3') }) });`,
    /not assignable to parameter of type 'number \| NumberTerm'/,
  ],
  'a name that both bundles have': [`join({ a: text(), b: text() }, { a: integer() });`, /a is named twice/],
  'a change of a field that is not there': [
    `extend(order, 'x', { change: { fees: text() } });`,
    /'fees' does not exist/,
  ],
  'a time compared with a day': [
    `ruleset('x', { fields: { a: time(), b: date() }, rules: (it) => ({ a: it.a.isAfter(it.b) }) });`,
    /DateHandle' is not assignable to parameter of type 'string \| TimeTerm'/,
  ],
  'an order of codes that have none': [
    `ruleset('x', { fields, rules: (it) => ({ a: it.glaze.isAbove('ash') }) });`,
    /Property 'isAbove' does not exist/,
  ],
  'an entry that has no such field': [
    `ruleset('x', { fields: { l: list(record({ a: text() })) }, rules: (it) => ({ a: it.l.each((one) => one.b.given()) }) });`,
    /Property 'b' does not exist/,
  ],
  'a default of another kind': [`integer({ default: 'x' });`, /Type 'string' is not assignable to type 'number/],
  'a default that is no choice': [`choice({ a: 'A' }, { default: 'b' });`, /'"b"' is not assignable to type '"a"/],
  'a decimal without its scale': [`decimal({ precision: 5 });`, /Property 'scale' is missing/],
  'a way of filling of another kind': [`text({ generated: 'identity' });`, /'"identity"' is not assignable/],
  'a custom function of other values': [
    `ruleset('x', { fields, rules: (it) => ({ a: custom([it.pieces], (pieces: string) => pieces === '') }) });`,
    /not assignable/,
  ],
  'an order of texts': [
    `ruleset('x', { fields, rules: (it) => ({ a: it.tag.isLessThan('b') }) });`,
    /Property 'isLessThan' does not exist/,
  ],
  'a code that is not declared': [
    `ruleset('x', { fields, rules: (it) => ({ a: it.glaze.is('tin') }) });`,
    /'"tin"' is not assignable/,
  ],
  'references to different rulesets': [
    `ruleset('x', { fields, rules: (it) => ({ a: it.kiln.is(it.oven) }) });`,
    /'"oven"' is not assignable to type '"kiln"'/,
  ],
  'a look-up inside an expression': [
    `ruleset('x', { fields, rules: (it) => ({ a: it.pieces.is(1).and(unique(it.tag)) }) });`,
    /Type 'UniqueLookup' is missing the following properties from type 'Expression'/,
  ],
  'a misspelt option of a kind': [`text({ maxLenght: 3 });`, /'maxLenght' does not exist in type 'TextOptions/],
  'a misspelt option of a rule': [
    `ruleset('x', { fields, rules: (it) => ({ a: rule({ holds: it.pieces.is(1), blames: it.pieces }) }) });`,
    /'blames' does not exist/,
  ],
  'a misspelt option of a ruleset': [`ruleset('x', { fields, tabel: 'y' });`, /'tabel' does not exist/],
  'a key that is no field': [
    `ruleset('x', { key: 'tagg', fields });`,
    /Type '"tagg"' is not assignable.*Did you mean '"tag"'/,
  ],
  'a key that is optional': [
    `ruleset('x', { key: 'collectOn', fields });`,
    /Type '"collectOn"' is not assignable to type 'RequiredNames/,
  ],
  'a rule that is a truth': [`ruleset('x', { fields, rules: () => ({ a: true }) });`, /'boolean' is not assignable/],
  'unique over nothing': [`unique();`, /Expected|at least/],
  'a facet of another kind': [`integer({ pattern: /a/ });`, /'pattern' does not exist in type 'IntegerOptions/],
  'a required field set to null': [
    `const a: AcceptedOf<typeof firing> = null!; const b: null = a.tag; void b;`,
    /Type 'string' is not assignable to type 'null'/,
  ],
};

describe('types', () => {
  const names = [...Object.keys(right), ...Object.keys(wrong)];
  const file = (what: string) => `${names.indexOf(what)}.ts`;
  const { folder, remove } = temporaryFolder({
    ...Object.fromEntries(Object.entries(right).map(([what, code]) => [file(what), `${head}${code}\n`])),
    ...Object.fromEntries(Object.entries(wrong).map(([what, [code]]) => [file(what), `${head}${code}\n`])),
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
  after(remove);
  const compiler = resolve('node_modules/typescript/bin/tsc');
  const { stdout } = spawnSync(process.execPath, [compiler, '-p', folder, '--pretty', 'false'], {
    encoding: 'utf8',
    cwd: folder,
  });
  const errors = (what: string) => {
    const lines = stdout.split('\n');
    const start = lines.findIndex((line) => line.startsWith(`${file(what)}(`));
    if (start < 0) return '';
    const next = lines.findIndex((line, at) => at > start && /^\S/.test(line));
    return lines.slice(start, next < 0 ? undefined : next).join(' ');
  };
  for (const what of Object.keys(right)) test(`${what} compiles`, () => assert.equal(errors(what), ''));
  for (const [what, [, said]] of Object.entries(wrong)) {
    test(`${what} does not compile`, () => assert.match(errors(what), said));
  }
});
