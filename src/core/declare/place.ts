import type { Place } from '../model/index.js';

const FRAME = /(?:\(|at (?:async )?)((?:file:\/\/|[A-Za-z]:[\\/]|\/|https?:\/\/)[^()]*?):(\d+):\d+\)?$/;

/**
 * Where the caller of a public function was called from. `depth` counts the library's own frames in between: 1 for a
 * function that a declaration calls itself. Stack texts are no standard; where they can't be read the line is 0.
 */
export function placeOfCaller(depth: number): Place {
  const frames = (new Error().stack ?? '').split('\n').filter((line) => /^\s*at /.test(line));
  const found = FRAME.exec(frames[depth + 1] ?? '');
  if (found === null) return { file: '', line: 0 };
  const file = (found[1] ?? '').replace(/\?.*$/, '');
  const path = file.startsWith('file://') ? decodeURIComponent(file.slice('file://'.length)) : file;
  return { file: path, line: Number(found[2]) };
}
