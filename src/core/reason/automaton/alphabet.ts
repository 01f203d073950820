import { includes, type Ranges } from '../pattern/ranges.js';

/** Characters in classes that some sets never tell apart. */
export interface Alphabet {
  /** Where each stretch of characters begins, in order; it ends before the next. */
  readonly starts: readonly number[];
  /** The class of each stretch; -1 for what is in no set. */
  readonly classes: readonly number[];
  /** The classes that each set is made of. */
  readonly sets: readonly (readonly number[])[];
}

/** The classes of characters that several sets need. */
export function alphabetOf(sets: readonly Ranges[]): Alphabet {
  const edges = new Set(sets.flatMap((ranges) => ranges.flatMap(([from, to]) => [from, to + 1])));
  const starts = [...edges].sort((a, b) => a - b);
  const numbers = new Map<string, number>();
  const members: (readonly number[])[] = [];
  const classes = starts.map((start) => {
    const within = sets.flatMap((ranges, set) => (includes(ranges, start) ? [set] : []));
    if (within.length === 0) return -1;
    const key = within.join();
    const known = numbers.get(key);
    if (known !== undefined) return known;
    members.push(within);
    numbers.set(key, members.length - 1);
    return members.length - 1;
  });
  return {
    starts,
    classes,
    sets: sets.map((_, set) => members.flatMap((within, at) => (within.includes(set) ? [at] : []))),
  };
}
