/**
 * Does some work for each item, so many at once, and no two at once that claim the same thing; what comes of it is told as
 * it comes.
 */
export async function* inParallel<T, R>(
  items: readonly T[],
  atOnce: number,
  claims: (item: T) => readonly string[],
  work: (item: T) => Promise<R>,
): AsyncIterable<R> {
  const waiting = items.map((item) => ({ item, claimed: claims(item) }));
  const taken = new Set<string>();
  const running = new Set<Promise<Done<R>>>();
  const start = (): boolean => {
    const at = waiting.findIndex(({ claimed }) => claimed.every((claim) => !taken.has(claim)));
    const [next] = at < 0 ? [] : waiting.splice(at, 1);
    if (next === undefined) return false;
    for (const claim of next.claimed) taken.add(claim);
    const done: Promise<Done<R>> = work(next.item).then((result) => ({
      result,
      claimed: next.claimed,
      done: () => done,
    }));
    running.add(done);
    return true;
  };
  try {
    while (waiting.length > 0 || running.size > 0) {
      while (running.size < atOnce && start());
      const { result, claimed, done } = await Promise.race(running);
      running.delete(done());
      for (const claim of claimed) taken.delete(claim);
      yield result;
    }
  } finally {
    // Whoever stops asking waits for what is under way: it undoes what it did.
    await Promise.allSettled(running);
  }
}

interface Done<R> {
  readonly result: R;
  readonly claimed: readonly string[];
  readonly done: () => Promise<Done<R>>;
}
