/** At most so many letters of a name may be wrong for another to be meant. */
const MOST_WRONG = 3;

/** The known name that is nearest to one that is not known, by letters added, left out, changed or swapped; '' for none. */
export function nearest(name: string, known: readonly string[]): string {
  const near = known.map((one) => [one, distance(name.toLowerCase(), one.toLowerCase())] as const);
  const best = near.reduce<readonly [string, number]>((a, b) => (b[1] < a[1] ? b : a), ['', MOST_WRONG + 1]);
  return best[1] <= Math.min(MOST_WRONG, Math.ceil(name.length / 2)) ? best[0] : '';
}

/** The edit distance of Damerau and Levenshtein, with neighbours swapped as one edit. */
function distance(a: string, b: string): number {
  const rows: number[][] = [Array.from({ length: b.length + 1 }, (_, at) => at)];
  for (let i = 1; i <= a.length; i += 1) {
    const row = [i];
    for (let j = 1; j <= b.length; j += 1) {
      const [above, left, corner] = [rows[i - 1]?.[j] ?? 0, row[j - 1] ?? 0, rows[i - 1]?.[j - 1] ?? 0];
      const isSame = a[i - 1] === b[j - 1];
      const isSwapped = i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1];
      const swapped = isSwapped ? (rows[i - 2]?.[j - 2] ?? 0) + 1 : Number.POSITIVE_INFINITY;
      row.push(Math.min(above + 1, left + 1, corner + (isSame ? 0 : 1), swapped));
    }
    rows.push(row);
  }
  return rows[a.length]?.[b.length] ?? 0;
}
