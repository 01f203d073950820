import { brotliCompressSync, gzipSync } from 'node:zlib';
import { buildSync } from 'esbuild';
import { figure } from './measure.js';

/** What a page loads that binds the demo's form of firings: kilobytes, minified and compressed. */
export function benchPageSize(): void {
  const binding = `import { bind, violationsIn } from './src/browser/index.ts';`;
  const checking = `import { check } from './examples/kiln-bookings/echo/javascript/firing.js';`;
  const use = `bind(document.forms[0], { check }, { send: async (value) => violationsIn(await fetch('', { method: 'POST', body: JSON.stringify(value) })) });`;
  const all = {
    'a bound form and its rules': `${binding}${checking}${use}`,
    'of that the rules': `${checking}globalThis.check = check;`,
    'of that the binding': `${binding}globalThis.bind = [bind, violationsIn];`,
  };
  for (const [what, source] of Object.entries(all)) {
    const code = minified(source);
    const [brotli, gzip] = [brotliCompressSync(code).length / 1000, gzipSync(code, { level: 9 }).length / 1000];
    figure(`kB for a page, ${what} (gzip: ${gzip.toFixed(2)})`, brotli, what.startsWith('a') ? 'aim 6' : '');
  }
}

function minified(source: string): Uint8Array {
  const made = buildSync({
    stdin: { contents: source, resolveDir: process.cwd(), loader: 'ts' },
    bundle: true,
    minify: true,
    format: 'esm',
    target: 'es2022',
    write: false,
  });
  const [file] = made.outputFiles;
  if (file === undefined) throw new Error('nothing was bundled');
  return file.contents;
}
