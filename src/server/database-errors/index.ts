import type { Schema } from '../../core/declare/index.js';
import type { Blame } from '../../core/model/index.js';
import { RowRefused } from '../insert.js';
import { blameOf, type ForeignConstraints, type Names } from './attribution.js';
import { mariadbRefusal } from './mariadb.js';
import { postgresqlRefusal } from './postgresql.js';
import type { Refusal } from './refusal.js';
import { sqliteRefusal } from './sqlite.js';

export {
  blameOf,
  type ForeignConstraint,
  type ForeignConstraints,
  type Names,
  namesOf,
  placeOf,
  refusedWords,
} from './attribution.js';
export type { Refusal } from './refusal.js';

/** Errors are wrapped no deeper than this. */
const DEEPEST = 8;

/**
 * What a driver's error says was refused, whichever driver it is, however it was wrapped; null for any other error.
 *
 * @param names the names that a trigger of ours may raise
 * @param written the table that was written, where it is known: not every engine names it
 */
export function refusalOf(error: unknown, names: Names, written: string | null = null): Refusal | null {
  let table = written;
  let at: unknown = error;
  for (let depth = 0; depth < DEEPEST && typeof at === 'object' && at !== null; depth++) {
    if (at instanceof RowRefused) table = at.row.table.name;
    else {
      const found = mariadbRefusal(at) ?? postgresqlRefusal(at) ?? sqliteRefusal(at, (name) => names.has(name));
      if (found !== null) return { ...found, table: found.table ?? table };
    }
    at = (at as { readonly cause?: unknown }).cause;
  }
  return null;
}

/**
 * What a refused write blames in the engine's own words, or null where the error is no refusal. An empty list: the
 * engine names no constraint and no column.
 */
export function blamesFrom(
  error: unknown,
  model: Schema[number],
  names: Names,
  foreign: ForeignConstraints,
  written: string,
): readonly Blame[] | null {
  const refusal = refusalOf(error, names, written);
  if (refusal === null) return null;
  const blame = blameOf(refusal, model, names, foreign);
  const nothing = blame.pointer === null && blame.rule === null;
  return nothing && !['required', 'unique', 'check'].includes(refusal.kind) ? [] : [blame];
}
