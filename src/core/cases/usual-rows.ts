import type { Schema } from '../declare/index.js';
import { problemsOf } from '../messages/index.js';
import type { Row } from '../model/index.js';
import type { Bases } from './base.js';

/** The seeds of the records that cases start from, and of those that records refer to. */
const OF_RECORDS = [0, 11];
const OF_TARGETS = [0, 1, 11, 12, 20, 21, 31, 32, 40, 43, 51, 54];

/** The records of a ruleset that its cases, and the cases of others, send and store most of the time. */
export function usualRows(model: Schema[number], bases: Bases): readonly Row[] {
  try {
    const targets =
      model.key === null ? [] : OF_TARGETS.flatMap((seed) => bases.rowsNamed(model, bases.target(model, seed).key));
    const own = targets.filter(({ ruleset }) => ruleset === model.ruleset).map(({ row }) => row);
    return [...OF_RECORDS.map((seed) => bases.of(model, seed).row), ...own];
  } catch (error) {
    // Rules of which no record was found to start from have no cases.
    if (problemsOf(error)?.some(({ code }) => code === 'no_base') !== true) throw error;
    return [];
  }
}
