/**
 * Whole numbers between two limits (null is none) that are multiples of a step, but of none of some others. Limits are
 * always multiples of the step themselves.
 */
export interface Range {
  readonly low: bigint | null;
  readonly high: bigint | null;
  readonly step: bigint;
  readonly not: readonly bigint[];
}

/** The greatest whole multiple of a step that is not above a number. */
export function floorTo(value: bigint, step: bigint): bigint {
  const rest = ((value % step) + step) % step;
  return value - rest;
}

/** The least whole multiple of a step that is not below a number. */
export function ceilTo(value: bigint, step: bigint): bigint {
  return -floorTo(-value, step);
}

/** Division rounded down, whatever the signs. */
export function floorDivide(value: bigint, by: bigint): bigint {
  const quotient = value / by;
  return value % by !== 0n && value < 0n !== by < 0n ? quotient - 1n : quotient;
}

function greatestCommon(a: bigint, b: bigint): bigint {
  return b === 0n ? a : greatestCommon(b, a % b);
}

/** Whole numbers of any size: `Math.max` takes none. */
function greatest(values: readonly bigint[]): bigint {
  const [first = 0n, ...rest] = values;
  return rest.reduce((found, value) => {
    if (value > found) return value;
    return found;
  }, first);
}

/** The same range with another limit, step or exception; null where nothing is left in it. */
export function narrowed(range: Range, to: Partial<Range>): Range | null {
  const step = to.step === undefined ? range.step : (range.step * to.step) / greatestCommon(range.step, to.step);
  const lows = [range.low, to.low ?? null].filter((low) => low !== null);
  const highs = [range.high, to.high ?? null].filter((high) => high !== null);
  const low = lows.length === 0 ? null : ceilTo(greatest(lows), step);
  const high = highs.length === 0 ? null : floorTo(-greatest(highs.map((one) => -one)), step);
  const not = [...range.not, ...(to.not ?? [])];
  const next = { low, high, step, not };
  if (low !== null && high !== null && low > high) return null;
  return anyIn(next) === null ? null : next;
}

/** So many neighbours are tried before a range is taken to be free of what is wanted. */
const MOST_TRIED = 1_000n;

/** True where a value is in the range. */
export function holds({ low, high, step, not }: Range, value: bigint): boolean {
  const inside = (low === null || value >= low) && (high === null || value <= high);
  return inside && value % step === 0n && not.every((other) => value % other !== 0n);
}

/** A value of the range: the nearest to `near` upwards, else downwards. Null where there is none. */
export function anyIn(range: Range, near: bigint = range.low ?? range.high ?? 0n): bigint | null {
  // Every value is one of the exceptions where its step is a multiple of one.
  if (range.not.some((other) => range.step % other === 0n)) return null;
  const { low, high, step } = range;
  const start = ceilTo(low !== null && near < low ? low : high !== null && near > high ? high : near, step);
  for (let away = 0n; away < MOST_TRIED; away++) {
    for (const value of away === 0n ? [start] : [start + away * step, start - away * step])
      if (holds(range, value)) return value;
  }
  return null;
}

/** How many values there are, as far as both ends are known; exceptions are counted in. */
export function sizeOfRange({ low, high, step }: Range): bigint | null {
  return low === null || high === null ? null : (high - low) / step + 1n;
}
