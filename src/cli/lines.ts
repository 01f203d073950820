import { existsSync, readFileSync } from 'node:fs';
import type { Place } from '../core/model/index.js';

/** The first line of a file, from a place on, that has a name in it; null where there is none. */
export function lineWith({ file, line }: Place, name: string): number | null {
  if (!existsSync(file)) return null;
  const lines = readFileSync(file, 'utf8').split('\n');
  const at = lines.findIndex((text, index) => index >= line - 1 && text.split(/[^\w$]+/).includes(name));
  return at === -1 ? null : at + 1;
}

/** The place in a file of what is named last on a path such as `layers.server`; its first line where it is nowhere. */
export function placeIn(file: string, path: string): Place {
  const place = { file, line: 1 };
  const names = path.split('.').filter((name) => /^[\w$]+$/.test(name));
  const found = names.reduce((line, name) => lineWith({ file, line }, name) ?? line, 1);
  return { ...place, line: found };
}
