import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { transformSync } from 'esbuild';
import { moduleText } from '../src/core/targets/javascript/emit.js';
import type { Check } from '../tests/fixtures/echo.js';
import { modelIn, studio } from '../tests/fixtures/schema.js';
import { fastest, figure } from './measure.js';
import { check as twinCheck } from './twin.js';
import { assertAgree } from './twin-agrees.js';

const RUNS = 20;
const ROUNDS = 20_000;
const twin: Check = twinCheck;
const how = { wire: 'json', on: 'server', clock: { instant: '2026-03-02T09:00:00Z' } } as const;

/** Valid firings of several shapes, so that no check is tuned to one. */
const valid: readonly object[] = readFileSync('examples/kiln-bookings/records/firing.jsonl', 'utf8')
  .trimEnd()
  .split('\n')
  .map((line) => JSON.parse(line));
/** Each with two to four faults, as people make them. */
const faults: readonly object[] = [
  { tag: 'bq-1', pieces: 41 },
  { potter: '', collectOn: '2026-02-30', vented: 'yes' },
  { fee: 12.345, title: 'x', glaze: 'Celadon', surprise: 1 },
  { shelf: { bay: 'Z9', level: 0 }, helpers: ['', 'a', 'a'] },
];
const invalid = valid.map((record, at) => ({ ...record, ...faults[at % faults.length] }));

async function compiled(): Promise<Check> {
  const text = moduleText(modelIn(studio, 'firing'));
  return ((await import(`data:text/javascript,${encodeURIComponent(text)}`)) as { check: Check }).check;
}

function rounds(check: Check, records: readonly object[]): () => unknown {
  return () => {
    let last: unknown = null;
    for (let round = 0; round < ROUNDS; round += 1) last = check(records[round % records.length], how);
    return last;
  };
}

/** The compiled module of the demo's firing beside a hand-written twin that gives the same answers. */
export async function benchValidators(): Promise<void> {
  const check = await compiled();
  assertAgree(check, twin, 5_000);
  for (const record of valid)
    if (!(check(record, how) as { ok: boolean }).ok) throw new Error('a valid record is refused');
  for (const record of invalid)
    if ((check(record, how) as { ok: boolean }).ok) throw new Error('an invalid record is accepted');
  const texts = valid.map((record) => JSON.stringify(record));
  const parsing = () => {
    let last: unknown = null;
    for (let round = 0; round < ROUNDS; round += 1) last = JSON.parse(texts[round % texts.length] ?? '');
    return last;
  };
  const [own, other, json] = fastest(RUNS, [rounds(check, valid), rounds(twin, valid), parsing]) as [
    number,
    number,
    number,
  ];
  figure('valid records, times as fast as the twin', other / own, 'at least 1.0');
  const [ownInvalid, otherInvalid] = fastest(RUNS, [rounds(check, invalid), rounds(twin, invalid)]) as [number, number];
  figure('invalid records, times as fast as the twin', otherInvalid / ownInvalid, 'at least 0.5');
  figure('valid records, beside JSON.parse of the same', own / json, 'aim 0.4');
  allocation(check);
  sizes();
}

/** Bytes allocated on the valid path, beside a bare copy of the canonical value and its result. */
function allocation(check: Check): void {
  const { gc } = globalThis;
  if (gc === undefined) throw new Error('run with node --expose-gc');
  const { shelf: _, helpers: __, fee: ___, ...plain } = valid[0] as Row;
  const samples: { readonly [what: string]: Row } = {
    'values only': plain,
    'a record': { ...plain, shelf: { bay: 'A', level: 1 } },
    'a list': { ...plain, helpers: ['Ines', 'Juno'] },
    'a boxed fraction': { ...plain, fee: 12.5 },
  };
  for (const [what, sample] of Object.entries(samples)) {
    const { value } = check(sample, how) as { value: Firing };
    const own = bytesOf(() => check(sample, how), gc);
    figure(`bytes allocated with ${what}, beside the bare value`, own / bytesOf(() => copied(value), gc), '1.0');
  }
}

/** Bytes a call, the least of several measurements: the engine's own work falls into some of them. */
function bytesOf(make: () => unknown, gc: () => unknown): number {
  const once = () => {
    for (let round = 0; round < 20_000; round += 1) make();
    gc();
    const kept: unknown[] = new Array(1_000);
    const before = process.memoryUsage().heapUsed;
    for (let round = 0; round < kept.length; round += 1) kept[round] = make();
    return (process.memoryUsage().heapUsed - before) / kept.length;
  };
  return Math.min(...Array.from({ length: 15 }, once));
}

interface Firing extends Row {
  readonly shelf: { readonly bay: string; readonly level: number } | null;
  readonly helpers: readonly string[];
}
type Row = { readonly [name: string]: unknown };

/** The result of a check and nothing else. */
function copied(firing: Firing): unknown {
  const { tag, kiln, potter, title, pieces, peak, glaze, vented, fee, loadOn, collectOn, notes } = firing;
  const shelf = firing.shelf === null ? null : { bay: firing.shelf.bay, level: firing.shelf.level };
  const helpers = firing.helpers.slice();
  const value = {
    tag,
    kiln,
    potter,
    title,
    pieces,
    peak,
    glaze,
    vented,
    fee,
    loadOn,
    collectOn,
    shelf,
    helpers,
    notes,
  };
  return { ok: true, value };
}

/** Minified and compressed, as a page loads them. */
function sizes(): void {
  const size = (text: string) =>
    gzipSync(transformSync(text, { minify: true, format: 'esm', target: 'es2022' }).code, { level: 9 }).length;
  const own = size(moduleText(modelIn(studio, 'firing')));
  figure(
    'size minified and compressed, beside the twin',
    own / size(readFileSync('bench/twin.js', 'utf8')),
    'at most 1.5',
  );
}
