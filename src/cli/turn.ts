import { closeSync, mkdirSync, openSync, readdirSync, readFileSync, rmSync, statSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { ProblemError, problems } from '../core/messages/index.js';
import { isPart, isSystemError } from './write-files.js';

/** The file that says which process writes into a folder. */
const TURN = '.echo-rule-turn';
/** To write takes far less: a run that has had its turn for so long was stopped, or is on another machine and was. */
const LONGEST_MS = 60_000;
const WAIT_MS = 25;
/** So long does a run wait for another one to end. */
const PATIENCE_MS = 10_000;

/**
 * Runs `write` while no other run writes into the folder. What a run that was killed left behind is removed before.
 *
 * @throws ProblemError `another_runs` where another run does not end, `file_unwritable` where the folder can't be made
 */
export function inTurn<T>(folder: string, write: () => T): T {
  const file = join(folder, TURN);
  takeTurn(folder, file);
  try {
    for (const part of partsIn(folder)) rmSync(part, { force: true });
    return write();
  } finally {
    rmSync(file, { force: true });
  }
}

function takeTurn(folder: string, file: string): void {
  const until = Date.now() + PATIENCE_MS;
  while (!isTaken(folder, file)) {
    if (isOver(file)) rmSync(file, { force: true });
    else if (Date.now() > until) throw new ProblemError([problems.anotherRuns(null, folder, file)]);
    else Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, WAIT_MS);
  }
}

/** The turn is this process's: it made the file, which no two can. */
function isTaken(folder: string, file: string): boolean {
  try {
    mkdirSync(folder, { recursive: true });
    const descriptor = openSync(file, 'wx');
    writeSync(descriptor, `${process.pid}\n`);
    closeSync(descriptor);
    return true;
  } catch (error) {
    if (!isSystemError(error)) throw error;
    if (error.code === 'EEXIST' && error.path === file) return false;
    throw new ProblemError([problems.fileUnwritable(null, folder, error.message)]);
  }
}

/** The process that had the turn is gone. */
function isOver(file: string): boolean {
  try {
    const owner = Number(readFileSync(file, 'utf8'));
    const isOld = Date.now() - statSync(file).mtimeMs > LONGEST_MS;
    return isOld || (owner > 0 && !isAlive(owner));
  } catch (error) {
    // It ended meanwhile.
    if (isSystemError(error) && error.code === 'ENOENT') return false;
    throw error;
  }
}

function isAlive(owner: number): boolean {
  try {
    return process.kill(owner, 0);
  } catch (error) {
    // One that belongs to somebody else is there as well.
    return isSystemError(error) && error.code === 'EPERM';
  }
}

function partsIn(folder: string): readonly string[] {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && isPart(entry.name))
    .map((entry) => join(entry.parentPath, entry.name));
}
