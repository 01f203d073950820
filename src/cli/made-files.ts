import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { type Problem, ProblemError, problems } from '../core/messages/index.js';
import type { MadeFile } from '../core/targets/index.js';
import { inTurn } from './turn.js';
import { isSystemError, writeFiles } from './write-files.js';

/** A made file, sealed: its text holds a digest of itself, so that an edit by hand is noticed. */
export interface SealedFile {
  /** Relative to the output folder. */
  readonly path: string;
  readonly text: string;
}

/** The digest stands within the first lines, whatever the format. */
const HEAD_LINES = 4;
const BLANK = `sha256-${'0'.repeat(64)}`;
const DIGEST = /sha256-[0-9a-f]{64}/;

/** Puts the header and the digest before a text, in the comments of its format. */
export function sealed(path: string, text: string, from: readonly string[], comment: MadeFile['comment']): SealedFile {
  if (comment === '$comment') {
    const told = `Made by echo-rule from ${from.join(', ')}. Change the rules, not this file. Digest: ${BLANK}`;
    const data = { $comment: told, ...(JSON.parse(text) as object) };
    return { path, text: withDigest(`${JSON.stringify(data, null, 2)}\n`) };
  }
  const [open, close] = comment;
  const header = [
    `${open}Made by echo-rule from ${from.join(', ')}. Change the rules, not this file: it is made again.${close}`,
    `${open}Digest: ${BLANK}${close}`,
  ];
  return { path, text: withDigest(`${header.join('\n')}\n\n${text}`) };
}

/** JSON has no comments: the header is its first two members. */
export function sealedJson(path: string, data: object, from: readonly string[]): SealedFile {
  const text = JSON.stringify({ madeBy: 'echo-rule', digest: BLANK, madeFrom: from, ...data }, null, 2);
  return { path, text: withDigest(`${text}\n`) };
}

/** What becomes of the files: which are written, which stand there already, and which nothing makes any more. */
export interface Written {
  readonly written: readonly string[];
  readonly unchanged: readonly string[];
  readonly stale: readonly string[];
}

/**
 * Writes made files, all of them or none: each beside its place first, then moved there. Runs that write into one folder
 * take turns.
 *
 * @throws ProblemError where a file was edited by hand (unless `overwrite`), or is none that echo-rule made
 */
export function writeMade(folder: string, files: readonly SealedFile[], overwrite: boolean): Written {
  return inTurn(folder, () => writeUndisturbed(folder, files, overwrite));
}

function writeUndisturbed(folder: string, files: readonly SealedFile[], overwrite: boolean): Written {
  const found: Problem[] = [];
  const changed = files.filter(({ path, text }) => {
    const file = join(folder, path);
    if (!existsSync(file)) return true;
    const there = readText(file);
    const state = stateOf(there);
    if (state === 'foreign') found.push(problems.fileForeign({ file, line: 1 }, file));
    if (state === 'edited' && !overwrite) found.push(problems.fileEdited({ file, line: 1 }, file));
    return there !== text;
  });
  if (found.length > 0) throw new ProblemError(found);
  writeFiles(changed.map(({ path, text }) => ({ file: join(folder, path), text })));
  const names = new Set(files.map(({ path }) => path));
  const written = changed.map(({ path }) => path);
  return {
    written,
    unchanged: files.map(({ path }) => path).filter((path) => !written.includes(path)),
    stale: madeBefore(folder).filter((path) => !names.has(path)),
  };
}

function readText(file: string): string {
  try {
    return readFileSync(file, 'utf8');
  } catch (error) {
    throw isSystemError(error) ? new ProblemError([problems.fileUnwritable(null, file, error.message)]) : error;
  }
}

/** Made and as it was made, made and edited since, or not made by us at all. */
export function stateOf(text: string): 'made' | 'edited' | 'foreign' {
  const lines = text.replaceAll('\r\n', '\n');
  const digest = DIGEST.exec(lines)?.[0];
  const head = lines.split('\n', HEAD_LINES).join('\n');
  if (digest === undefined || !head.includes('echo-rule') || !head.includes(digest)) return 'foreign';
  return digestOf(lines.replace(digest, BLANK)) === digest ? 'made' : 'edited';
}

function withDigest(text: string): string {
  return text.replace(BLANK, digestOf(text));
}

function digestOf(text: string): string {
  return `sha256-${createHash('sha256').update(text).digest('hex')}`;
}

function madeBefore(folder: string): readonly string[] {
  const files = readdirSync(folder, { recursive: true, withFileTypes: true });
  return files
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name))
    .filter((file) => stateOf(readFileSync(file, 'utf8')) !== 'foreign')
    .map((file) => relative(folder, file).replaceAll('\\', '/'))
    .sort();
}
