import { readFile } from 'node:fs/promises';
import { extname } from 'node:path';
import type { Assets } from './pages.ts';

const TYPES: { readonly [extension: string]: string } = {
  '.js': 'text/javascript; charset=utf-8',
  '.css': 'text/css; charset=utf-8',
  '.svg': 'image/svg+xml',
};

/** What the build has made, by the manifest that it writes. */
export async function readAssets(folder: URL): Promise<Assets> {
  const manifest = JSON.parse(await readFile(new URL('.vite/manifest.json', folder), 'utf8')) as {
    readonly [source: string]: { readonly file: string; readonly css?: readonly string[] };
  };
  const entry = manifest['client/main.ts'];
  if (entry === undefined) throw new Error('The page is not built: run vite build first.');
  return { script: `/${entry.file}`, styles: (entry.css ?? []).map((file) => `/${file}`) };
}

/** A made file by its path; null for any other path. Those of `assets` never change: their names hold a digest. */
export async function assetAt(folder: URL, path: string): Promise<Response | null> {
  if (!/^\/(?:assets\/[\w.-]+|icon\.svg)$/.test(path)) return null;
  try {
    const bytes = await readFile(new URL(`.${path}`, folder));
    const type = TYPES[extname(path)] ?? 'application/octet-stream';
    return new Response(new Uint8Array(bytes), {
      headers: {
        'content-type': type,
        'cache-control': path.startsWith('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache',
      },
    });
  } catch {
    return null;
  }
}
