import { existsSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { ProblemError, problems } from '../core/messages/index.js';
import type { Surroundings } from './layer.js';
import type { TableOptions } from './tables.js';

/** True where the tables are there already, and may hold rows. */
export function isLive({ sql, url, handle }: Pick<TableOptions, 'sql' | 'url' | 'handle'>): boolean {
  return sql === undefined && (url !== undefined || handle !== undefined);
}

/** True where the tables are those that the compiled script creates, in an engine of their own. */
export function isCompiled({ sql, url, handle }: Pick<TableOptions, 'sql' | 'url' | 'handle'>): boolean {
  return sql === undefined && url === undefined && handle === undefined;
}

/** The text that creates the tables: the compiled file, or the one that the options name; null where they are there. */
export function tablesSql(
  options: Pick<TableOptions, 'sql' | 'url' | 'handle'>,
  target: string,
  { folder, output }: Surroundings,
): string | null {
  const { sql } = options;
  if (isLive(options)) return null;
  const file = sql === undefined ? resolve(output, `${target}/tables.sql`) : resolve(folder, sql);
  if (existsSync(file)) return readFileSync(file, 'utf8');
  const missing = problems.fileMissing(null, 'The layer', file);
  throw new ProblemError([sql === undefined ? problems.notCompiled(null, file) : missing]);
}
