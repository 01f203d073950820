import type { Schema } from '../../core/declare/index.js';
import type { Blame } from '../../core/model/index.js';
import { RowRefused } from '../insert.js';
import { blameOf, type ColumnsByConstraint, constraintNamed } from './attribution.js';
import { mariadbRefusal } from './mariadb.js';
import { postgresqlRefusal } from './postgresql.js';
import type { Refusal } from './refusal.js';
import { sqliteRefusal } from './sqlite.js';

export {
  blameOf,
  type ColumnsByConstraint,
  constraintNamed,
  fieldWith,
  ownedNamed,
  refusedWords,
} from './attribution.js';
export type { Refusal } from './refusal.js';

/** What a driver's error says was refused, whichever driver it is, however it was wrapped; null for any other error. */
export function refusalOf(error: unknown, model: Schema[number]): Refusal | null {
  let table: string | null = null;
  for (let at: unknown = error, depth = 0; depth < 8 && typeof at === 'object' && at !== null; depth++) {
    // A row of ours says which table it was for: not every engine does.
    if (at instanceof RowRefused) table = at.row.table.name;
    const found =
      mariadbRefusal(at) ??
      postgresqlRefusal(at) ??
      ('message' in at && typeof at.message === 'string'
        ? sqliteRefusal({ message: at.message }, (name) => constraintNamed(model, name) !== null)
        : null);
    if (found !== null) return { ...found, table: found.table ?? table };
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
  foreign: ColumnsByConstraint = new Map(),
): readonly Blame[] | null {
  const refusal = refusalOf(error, model);
  if (refusal === null) return null;
  const blame = blameOf(refusal, model, foreign);
  const nothing = blame.pointer === null && blame.rule === null;
  return nothing && !['required', 'unique', 'check'].includes(refusal.kind) ? [] : [blame];
}
