/** The fastest time of each job in milliseconds, over runs that take turns, so that all have the same luck. */
export function fastest(runs: number, jobs: readonly (() => unknown)[]): readonly number[] {
  const best = jobs.map(() => Number.POSITIVE_INFINITY);
  for (let run = 0; run < runs; run += 1) {
    for (const [at, job] of jobs.entries()) {
      const start = performance.now();
      job();
      best[at] = Math.min(best[at] ?? 0, performance.now() - start);
    }
  }
  return best;
}

/** Prints one figure with what it should be. */
export function figure(what: string, value: number, wanted: string): void {
  console.log(`${what.padEnd(64)} ${value.toFixed(2).padStart(8)}   ${wanted}`);
}
