/**
 * A regular expression for the whole numbers from `least` to `most`, each in its one spelling (zero also as `-0`,
 * which reads as zero). Both within the safe integers; `(?!)`, which matches nothing, where there is no such number.
 */
export function rangePattern(least: number, most: number): string {
  const parts: string[] = [];
  if (least <= 0 && most >= 0) parts.push('-?0');
  if (most >= 1) parts.push(...positive(Math.max(least, 1), most));
  if (least <= -1) {
    const negative = positive(Math.max(-most, 1), -least);
    if (negative.length > 0) parts.push(`-${group(negative)}`);
  }
  return parts.length === 0 ? '(?!)' : parts.join('|');
}

function group(parts: readonly string[]): string {
  return parts.length === 1 ? (parts[0] ?? '') : `(?:${parts.join('|')})`;
}

/** Positive numbers by their count of digits: within one count, a range of equally long texts. */
function positive(least: number, most: number): string[] {
  const parts: string[] = [];
  for (let digits = String(least).length; digits <= String(most).length; digits++) {
    const low = Math.max(least, 10 ** (digits - 1));
    const high = Math.min(most, 10 ** digits - 1);
    if (low <= high) parts.push(...sameLength(String(low), String(high)));
  }
  return parts;
}

/** Digit by digit: the part under the first digit of the low end, the whole decades between, and under the high end. */
function sameLength(low: string, high: string): string[] {
  const rest = low.length - 1;
  if (/^0*$/.test(low) && /^9*$/.test(high)) return [any(low.length)];
  if (rest === 0) return [oneDigit(low, high)];
  const [first = '', last = ''] = [low[0], high[0]];
  if (first === last) return sameLength(low.slice(1), high.slice(1)).map((tail) => first + tail);
  const lowWhole = /^0*$/.test(low.slice(1));
  const highWhole = /^9*$/.test(high.slice(1));
  const from = lowWhole ? Number(first) : Number(first) + 1;
  const to = highWhole ? Number(last) : Number(last) - 1;
  return [
    ...(lowWhole ? [] : sameLength(low.slice(1), '9'.repeat(rest)).map((tail) => first + tail)),
    ...(from <= to ? [oneDigit(String(from), String(to)) + any(rest)] : []),
    ...(highWhole ? [] : sameLength('0'.repeat(rest), high.slice(1)).map((tail) => last + tail)),
  ];
}

function oneDigit(from: string, to: string): string {
  return from === to ? from : `[${from}-${to}]`;
}

function any(digits: number): string {
  return digits === 0 ? '' : digits === 1 ? '[0-9]' : `[0-9]{${digits}}`;
}
