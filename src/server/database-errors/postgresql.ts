import type { Schema } from '../../core/declare/index.js';
import type { Blame } from '../../core/model/index.js';
import { blameColumn, blameColumns, blameOf, constraintNamed } from './attribution.js';

/** The fields of an error that PostgreSQL reports (its protocol's error response), as drivers hand them on. */
interface EngineError {
  readonly code: string;
  readonly message: string;
  readonly column?: string;
  readonly constraint?: string;
}

/** The columns of constraints and unique indexes that are not ours, by name. */
export type ColumnsByConstraint = ReadonlyMap<string, readonly string[]>;

/**
 * What a refused write blames, or null where the error is no refusal. An empty list: the engine names no constraint
 * and no column, as for a value that its type can't read.
 */
export function blamesFromPostgresql(
  error: unknown,
  model: Schema[number],
  foreign: ColumnsByConstraint = new Map(),
): readonly Blame[] | null {
  if (!isEngineError(error)) return null;
  const { code, message, column, constraint } = error;
  if (code === '23502' && column) return [blameColumn(model, column, 'required', message)];
  if (/^23/.test(code) && constraint) {
    const ours = constraintNamed(model, constraint);
    return [ours === null ? blameColumns(model, foreign.get(constraint) ?? [], message) : blameOf(ours, message)];
  }
  // 22: data exception; 23: integrity constraint violation; P0001: raised by a trigger.
  return /^2[23]/.test(code) || code === 'P0001' ? [] : null;
}

function isEngineError(error: unknown): error is EngineError {
  return (
    error instanceof Error && 'code' in error && typeof error.code === 'string' && /^[0-9A-Z]{5}$/.test(error.code)
  );
}
