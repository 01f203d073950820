import { rememberedText } from '../remembered.js';
import { LAST, normalise, type Ranges } from './ranges.js';

/** Every character that the running RegExp takes for a piece of a pattern: a set is the same in every pattern. */
export function askedCharacters(raw: string, flags: string): Ranges {
  return rememberedText(`${flags} ${raw}`, () => ask(raw, flags));
}

/** Asked in one pass over all characters. */
function ask(raw: string, flags: string): Ranges {
  const all = rememberedText('every character', allCharacters);
  const ranges: [number, number][] = [];
  for (const run of all.matchAll(new RegExp(`(?:${raw})+`, `g${flags}`))) {
    const end = run.index + run[0].length;
    const lastUnit = all.charCodeAt(end - 1);
    const last = lastUnit >= 0xdc00 && lastUnit <= 0xdfff ? end - 2 : end - 1;
    ranges.push([all.codePointAt(run.index) ?? 0, all.codePointAt(last) ?? 0]);
  }
  return normalise(ranges);
}

/** Every character once, in order, as one text; made from UTF-16 units, which is much faster than from code points. */
function allCharacters(): string {
  const units = new Uint16Array(0x10000 - 0x800 + 2 * (LAST + 1 - 0x10000));
  let at = 0;
  for (let unit = 0; unit <= 0xffff; unit++) {
    if (unit === 0xd800) unit = 0xe000;
    units[at++] = unit;
  }
  for (let high = 0xd800; high <= 0xdbff; high++) {
    for (let low = 0xdc00; low <= 0xdfff; low++) {
      units[at++] = high;
      units[at++] = low;
    }
  }
  let text = '';
  for (let from = 0; from < at; from += 0x4000)
    text += String.fromCharCode.apply(null, units.subarray(from, from + 0x4000) as unknown as number[]);
  return text;
}
