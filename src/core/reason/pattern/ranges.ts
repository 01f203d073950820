/** A set of code points: sorted, disjoint, inclusive ranges. Surrogates are never in one: they are no characters. */
export type Ranges = readonly (readonly [from: number, to: number])[];

export const LAST = 0x10ffff;
const SURROGATES: readonly [number, number] = [0xd800, 0xdfff];
export const anyCharacter: Ranges = [
  [0, SURROGATES[0] - 1],
  [SURROGATES[1] + 1, LAST],
];

/** Puts ranges in order and joins those that touch; surrogates are taken out. */
export function normalise(ranges: Ranges): Ranges {
  const sorted = [...ranges].sort((a, b) => a[0] - b[0]);
  const joined: [number, number][] = [];
  for (const [from, to] of sorted) {
    const last = joined.at(-1);
    if (last !== undefined && from <= last[1] + 1) last[1] = Math.max(last[1], to);
    else joined.push([from, to]);
  }
  return intersect(joined, anyCharacter);
}

/** The code points in both. */
export function intersect(a: Ranges, b: Ranges): Ranges {
  const common: [number, number][] = [];
  let [left, right] = [0, 0];
  for (;;) {
    const [one, other] = [a[left], b[right]];
    if (one === undefined || other === undefined) return common;
    const [from, to] = [Math.max(one[0], other[0]), Math.min(one[1], other[1])];
    if (from <= to) common.push([from, to]);
    if (one[1] < other[1]) left += 1;
    else right += 1;
  }
}

/** The characters that are not in the set. */
export function complement(ranges: Ranges): Ranges {
  const gaps: [number, number][] = [];
  let next = 0;
  for (const [from, to] of ranges) {
    if (from > next) gaps.push([next, from - 1]);
    next = to + 1;
  }
  if (next <= LAST) gaps.push([next, LAST]);
  return intersect(gaps, anyCharacter);
}

export function sizeOf(ranges: Ranges): number {
  return ranges.reduce((sum, [from, to]) => sum + to - from + 1, 0);
}

export function includes(ranges: Ranges, point: number): boolean {
  for (const [from, to] of ranges) if (from <= point && point <= to) return true;
  return false;
}
