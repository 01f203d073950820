import type { Schema } from '../declare/index.js';
import { listsOf, type Path, type Row, type Value, valueAt, withValue } from '../model/index.js';

type Model = Schema[number];

/** How often the search may change a record before it gives up. */
const MOST_STEPS = 60;

/**
 * Changes the fields that are not fixed until no rule is broken but the one that a case is about. Where that can't be had,
 * the record that breaks the fewest on the way, the first of them.
 */
export function settled(
  model: Model,
  brokenBy: (row: Row) => readonly string[],
  start: Row,
  choices: ReadonlyMap<string, readonly Value[]>,
  fixed: readonly Path[],
  about: string,
): Row {
  const faults = (row: Row) => brokenBy(row).filter((rule) => rule !== about);
  let best = { row: start, broken: faults(start) };
  let { row, broken } = best;
  // A change that does no better may lead back to where the search was.
  const seen = new Set<string>();
  for (let step = 0; step < MOST_STEPS && broken.length > 0; step++) {
    const next = bestNeighbour(model, row, broken, choices, fixed, faults);
    const content = JSON.stringify(next);
    if (next === null || seen.has(content)) break;
    seen.add(content);
    row = next;
    broken = faults(row);
    if (broken.length < best.broken.length) best = { row, broken };
  }
  return best.row;
}

/**
 * The record with one field of a broken rule changed so that fewer rules are broken; or, where no change does better, a
 * change that does as well: the way out of a rule over several fields may take two. Null where there is neither.
 */
function bestNeighbour(
  model: Model,
  row: Row,
  broken: readonly string[],
  choices: ReadonlyMap<string, readonly Value[]>,
  fixed: readonly Path[],
  faults: (row: Row) => readonly string[],
): Row | null {
  const rules = model.constraints.filter(({ id }) => broken.includes(id));
  const subjects = rules.flatMap((one) => one.subjects);
  // A rule that compares two fields may be kept by giving one the value of the other.
  const compared = (path: Path) =>
    rules
      .filter((one) => one.subjects.includes(path))
      .flatMap((one) => one.subjects.map((other) => valueAt(row, other)))
      .filter((value) => value !== null && typeof value !== 'object');
  let best: Row | null = null;
  let fewest = broken.length + 1;
  // What is wrong in a list takes another list.
  const paths = subjects.map((path) => listsOf(path)[0] ?? path);
  for (const path of new Set(paths.filter((one) => !fixed.includes(one)))) {
    for (const value of new Set([...(choices.get(path) ?? []), ...compared(path)])) {
      if (value === valueAt(row, path)) continue;
      const neighbour = withValue(row, path, value);
      const count = faults(neighbour).length;
      if (count === 0) return neighbour;
      if (count < fewest) [best, fewest] = [neighbour, count];
    }
  }
  return best;
}
