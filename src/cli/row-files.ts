import { existsSync, readFileSync } from 'node:fs';
import { parse } from 'csv-parse/sync';
import type { GivenRow } from '../core/fill/index.js';
import { ProblemError, problems } from '../core/messages/index.js';

/**
 * The rows of a file: JSON Lines, a JSON list (`.json`), or comma-separated values with the names of a form above them
 * (`.csv`).
 *
 * @throws ProblemError where it is not there, or a line can't be read
 */
export function readRowFile(file: string): readonly GivenRow[] {
  if (!existsSync(file)) throw new ProblemError([problems.fileMissing(null, 'A file of rows', file)]);
  const text = readFileSync(file, 'utf8').replace(/^\ufeff/, '');
  if (file.endsWith('.csv')) return fromCsv(text, file);
  return file.endsWith('.json') ? fromJson(text, file) : fromLines(text, file);
}

function fromLines(text: string, file: string): readonly GivenRow[] {
  return text.split('\n').flatMap((line, at) => {
    const place = { file, line: at + 1 };
    return line.trim() === '' ? [] : [{ place, wire: 'json' as const, input: parsed(line, place) }];
  });
}

function fromJson(text: string, file: string): readonly GivenRow[] {
  const list = parsed(text, { file, line: 1 });
  if (!Array.isArray(list)) throw new ProblemError([problems.rowUnread({ file, line: 1 }, 'JSON', 'it is no list')]);
  return list.map((input) => ({ place: { file, line: 1 }, wire: 'json', input }));
}

function parsed(json: string, place: GivenRow['place']): unknown {
  try {
    return JSON.parse(json);
  } catch (error) {
    throw new ProblemError([problems.rowUnread(place, 'JSON', String(error instanceof Error ? error.message : error))]);
  }
}

function fromCsv(text: string, file: string): readonly GivenRow[] {
  try {
    const records = parse(text, { columns: true, info: true, skip_empty_lines: true }) as unknown as readonly {
      readonly info: { readonly lines: number };
      readonly record: { readonly [name: string]: string };
    }[];
    return records.map(({ record, info }) => ({ place: { file, line: info.lines }, wire: 'form', input: record }));
  } catch (error) {
    const line = typeof error === 'object' && error !== null && 'lines' in error ? Number(error.lines) : 1;
    throw new ProblemError([problems.rowUnread({ file, line }, 'CSV', String((error as Error).message))]);
  }
}
