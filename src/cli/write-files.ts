import { mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { ProblemError, problems } from '../core/messages/index.js';

/**
 * Writes files, all of them or none: each beside its place first, then moved there.
 *
 * @throws ProblemError where the disk or the folder's rights don't let it; nothing is left behind then
 */
export function writeFiles(files: readonly { readonly file: string; readonly text: string }[]): void {
  const staged: string[] = [];
  let current = '';
  try {
    for (const { file, text } of files) {
      current = file;
      mkdirSync(dirname(file), { recursive: true });
      staged.push(file);
      writeFileSync(partOf(file), text);
    }
    for (const { file } of files) {
      current = file;
      renameSync(partOf(file), file);
    }
  } catch (error) {
    for (const file of staged) rmSync(partOf(file), { force: true });
    throw isSystemError(error) ? new ProblemError([problems.fileUnwritable(null, current, error.message)]) : error;
  }
}

/** No other program's files end so: what is left of a run that was killed can be removed. */
const PART = '.echo-rule-part';

function partOf(file: string): string {
  return `${file}${PART}`;
}

/** The name of a file that was being written and has not been moved to its place. */
export function isPart(name: string): boolean {
  return name.endsWith(PART);
}

/** What the operating system refuses (rights, space, a file where a folder should be) is not ours to debug. */
export function isSystemError(error: unknown): error is NodeJS.ErrnoException {
  return error instanceof Error && 'syscall' in error && 'code' in error;
}
