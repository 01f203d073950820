import type { Schema } from '../../core/declare/index.js';
import type { Blame } from '../../core/model/index.js';
import { storedFields } from '../../core/targets/index.js';
import { blameColumn, blameColumns, blameOf, constraintNamed, uniqueOver } from './attribution.js';

/** Errors that are no refusal of a value: the statement or the file is at fault. */
const BROKEN = /^(?:no such |near "|incomplete input|table .* has |database |disk |out of memory|unrecognized token)/;

/**
 * What a refused write blames, or null where the error is no refusal. SQLite reports by message only, which names the
 * columns of a unique rule, never its name, and nothing at all of a foreign key.
 */
export function blamesFromSqlite(error: unknown, model: Schema[number]): readonly Blame[] | null {
  const message = error instanceof Error ? error.message : String(error);
  if (BROKEN.test(message)) return null;
  const [, column] = /^NOT NULL constraint failed: [^.]+\.(.+)$/.exec(message) ?? [];
  if (column !== undefined) return [blameColumn(model, column, 'required', message)];
  const [, typed] = /^cannot store \S+ value in \S+ column [^.]+\.(.+)$/.exec(message) ?? [];
  if (typed !== undefined) return [blameColumn(model, typed, 'type', message)];
  const [, list] = /^UNIQUE constraint failed: (.+)$/.exec(message) ?? [];
  if (list !== undefined) {
    const columns = list.split(', ').map((name) => name.slice(name.indexOf('.') + 1));
    const ours = uniqueOver(model, columns);
    return [ours === null ? blameColumns(model, columns, message) : blameOf(ours, message)];
  }
  if (message === 'FOREIGN KEY constraint failed') return [];
  const name = /^CHECK constraint failed: ([\s\S]+)$/.exec(message)?.[1] ?? message;
  const ours = constraintNamed(model, name);
  return [ours === null ? blameColumns(model, columnsIn(name, model), message) : blameOf(ours, message)];
}

/** The columns that an unnamed CHECK's text mentions. */
function columnsIn(text: string, model: Schema[number]): readonly string[] {
  const words = new Set(text.match(/[A-Za-z_][A-Za-z0-9_]*/g) ?? []);
  return storedFields(model).flatMap(({ column }) => (words.has(column) ? [column] : []));
}
