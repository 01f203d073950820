/** Numbers that look random and are the same for the same seed. */
export interface Random {
  /** A number from 0 up to, but not including, 1. */
  next(): number;
  /** A whole number from 0 up to, but not including, `count`. */
  below(count: number): number;
  pick<T>(from: readonly T[]): T;
}

/** Mulberry32, by Tommy Ettinger (public domain): 32 bits of state, enough for test data and nothing else. */
export function randomFrom(seed: number): Random {
  let state = seed | 0;
  const next = () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
  const below = (count: number) => Math.floor(next() * count);
  return {
    next,
    below,
    pick(from) {
      const one = from[below(from.length)];
      if (one === undefined) throw new Error('nothing to pick from');
      return one;
    },
  };
}

/** A seed from a text: FNV-1a, 32 bits, the same for the same text everywhere. */
export function seedOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at += 1) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return hash >>> 0;
}
