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

/** What is allocated on the valid path, beside a bare copy of the canonical value and its result. */
function allocation(check: Check): void {
  const { gc } = globalThis;
  if (gc === undefined) throw new Error('run with node --expose-gc');
  const [record] = valid.filter((one) => Object.hasOwn(one, 'shelf') && Object.hasOwn(one, 'helpers'));
  const sample = record ?? valid[0];
  const value = (check(sample, how) as { value: Row }).value;
  const once = (make: () => unknown) => {
    for (let round = 0; round < 20_000; round += 1) make();
    gc();
    const before = process.memoryUsage().heapUsed;
    const kept: unknown[] = new Array(1_000);
    for (let round = 0; round < 1_000; round += 1) kept[round] = make();
    return (process.memoryUsage().heapUsed - before) / kept.length;
  };
  // The least of several: the engine's own work falls into some of them.
  const bytes = (make: () => unknown) => Math.min(...Array.from({ length: 9 }, () => once(make)));
  const bare = bytes(() => ({
    ok: true,
    value: {
      tag: value.tag,
      kiln: value.kiln,
      potter: value.potter,
      title: value.title,
      pieces: value.pieces,
      peak: value.peak,
      glaze: value.glaze,
      vented: value.vented,
      fee: value.fee,
      loadOn: value.loadOn,
      collectOn: value.collectOn,
      shelf: value.shelf === null ? null : { ...(value.shelf as object) },
      helpers: (value.helpers as unknown[]).slice(),
      notes: value.notes,
    },
  }));
  figure('bytes allocated, beside the canonical value alone', bytes(() => check(sample, how)) / bare, '1.0');
}

type Row = { readonly [name: string]: unknown };

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
