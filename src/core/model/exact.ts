/** A decimal number without any rounding: `digits` × 10 to the power of minus `scale`. */
export interface Exact {
  readonly digits: bigint;
  readonly scale: number;
}

const SPELLING = /^(-?)([0-9]+)(?:\.([0-9]+))?(?:e([+-]?[0-9]+))?$/;

/** Reads decimal text, or a number by its shortest decimal text; null for what is no number. */
export function exactOf(value: unknown): Exact | null {
  const parts = typeof value === 'number' || typeof value === 'string' ? SPELLING.exec(String(value)) : null;
  if (parts === null) return null;
  const [, sign = '', whole = '', fraction = '', exponent = '0'] = parts;
  const digits = BigInt(`${sign}${whole}${fraction}`);
  const scale = fraction.length - Number(exponent);
  return scale < 0 ? { digits: digits * 10n ** BigInt(-scale), scale: 0 } : { digits, scale };
}

/** Canonical decimal text: no exponent, plus sign, leading zero or trailing fraction zero; zero has no sign. */
export function exactText({ digits, scale }: Exact): string {
  const sign = digits < 0n ? '-' : '';
  const text = String(digits < 0n ? -digits : digits).padStart(scale + 1, '0');
  const whole = text.slice(0, text.length - scale);
  const fraction = text.slice(text.length - scale).replace(/0+$/, '');
  return `${sign}${whole}${fraction === '' ? '' : `.${fraction}`}`;
}

/** Both with the same scale. */
function aligned(a: Exact, b: Exact): readonly [a: bigint, b: bigint, scale: number] {
  const scale = Math.max(a.scale, b.scale);
  const lifted = (one: Exact) => one.digits * 10n ** BigInt(scale - one.scale);
  return [lifted(a), lifted(b), scale];
}

export function add(a: Exact, b: Exact): Exact {
  const [left, right, scale] = aligned(a, b);
  return { digits: left + right, scale };
}

export function subtract(a: Exact, b: Exact): Exact {
  return add(a, { digits: -b.digits, scale: b.scale });
}

export function multiply(a: Exact, b: Exact): Exact {
  return { digits: a.digits * b.digits, scale: a.scale + b.scale };
}

/** Negative, zero or positive as `a` is less than, equal to or more than `b`. */
export function compareExact(a: Exact, b: Exact): number {
  const [left, right] = aligned(a, b);
  return left < right ? -1 : left > right ? 1 : 0;
}

/** The nearest multiple of a step, which is positive, that is more than `a`, or less. */
export function multipleBeyond(a: Exact, step: Exact, to: 1 | -1): Exact {
  const [value, unit, scale] = aligned(a, step);
  const below = value - (((value % unit) + unit) % unit);
  const isOn = below === value;
  return { digits: to === 1 ? below + unit : isOn ? below - unit : below, scale };
}

/** True where `a` is a whole multiple of `step`, which is not zero. */
export function isMultiple(a: Exact, step: Exact): boolean {
  const [left, right] = aligned(a, step);
  return left % right === 0n;
}
