// Renders what the main commands print into docs/screenshots, as a terminal of 1280x800 shows it, and the pages of the
// examples. Needs Chromium. Names behind the command take those of the commands alone.
import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { AnsiUp } from 'ansi_up';
import { withBrowser } from './chromium.mjs';
import { pictures } from './page-screenshots.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));
const bin = join(root, 'dist/cli/bin.js');
const lustre =
  '{"tag":"GL-0099","kiln":"K01","potter":"ines","title":"Cups","pieces":41,"peak":740,"glaze":"lustre","vented":false,"loadOn":"2026-05-02"}';

const shots = [
  ['compile', 'kiln-bookings', ['compile']],
  ['review', 'rules-in-conflict', ['review']],
  ['explain', 'kiln-bookings', ['explain', 'pieces']],
  ['probe-agreeing', 'kiln-bookings', ['probe']],
  ['probe-disagreeing', 'layers-by-hand', ['probe']],
  [
    'cases',
    'kiln-bookings',
    ['cases', '--field', 'firing.pieces', '--field', 'firing.glaze', '--budget', '26', '--format', 'text'],
  ],
  ['strength', 'kiln-bookings', ['cases', '--strength']],
  ['fill', 'kiln-bookings', ['fill', '6', '--seed', '7']],
  ['try', 'kiln-bookings', ['try', 'firing', lustre]],
];

function shellText(words) {
  return words.map((word) => (/^[a-z0-9-]+$/.test(word) ? word : `'${word}'`)).join(' ');
}

const ansi = new AnsiUp();
ansi.use_classes = true;
mkdirSync(join(root, 'docs/screenshots'), { recursive: true });
await withBrowser(async (browser) => {
  const named = process.argv.slice(2);
  for (const [name, example, words] of shots.filter(([one]) => named.length === 0 || named.includes(one))) {
    const copy = mkdtempSync(join(tmpdir(), 'echo-rule-shot-'));
    cpSync(join(root, 'examples'), copy, { recursive: true });
    if (name === 'compile') rmSync(join(copy, example, 'echo'), { recursive: true });
    const { stdout, stderr } = spawnSync(process.execPath, [bin, ...words], {
      cwd: join(copy, example),
      env: { ...process.env, FORCE_COLOR: '1', COLUMNS: '130' },
      encoding: 'utf8',
    });
    rmSync(copy, { recursive: true });
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const prompt = `<b>examples/${example} $</b> echo-rule ${shellText(words).replaceAll('<', '&lt;')}\n\n`;
    await page.setContent(`<style>
    body { margin: 0; padding: 18px 22px; background: #14171c; color: #d8dce3 }
    .ansi-red-fg { color: #ff7b72 } .ansi-green-fg { color: #7ee081 } .ansi-yellow-fg { color: #f2cc60 } .ansi-cyan-fg { color: #79c0ff }
    pre { margin: 0; font: 14.5px/1.32 "DejaVu Sans Mono", monospace; white-space: pre-wrap } b { color: #8fb7ff }
  </style><pre>${prompt}${ansi.ansi_to_html(stdout + stderr)}</pre>`);
    await page.screenshot({ path: join(root, `docs/screenshots/${name}.png`), fullPage: true });
    await page.close();
  }
  if (named.length === 0) await pictures(browser, root);
});
