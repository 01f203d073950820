import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { casesFor } from '../core/cases/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import { narrowed, type Project } from './project.js';
import { shortPath, type Terminal } from './terminal.js';
import { writeFiles } from './write-files.js';

export interface CasesOptions {
  readonly ruleset?: readonly string[];
  readonly out?: string;
  readonly overwrite?: boolean;
  readonly format: 'jsonl' | 'json';
}

/** Writes the boundary cases as JSON Lines or one JSON list, to standard output or whole into a file. */
export function cases(project: Project, options: CasesOptions, terminal: Terminal): number {
  const { asked } = narrowed(project, options);
  const list = asked.flatMap((model) => casesFor(model, project.schema));
  const lines = list.map((one) => `${JSON.stringify(one)}\n`).join('');
  const text = options.format === 'json' ? `${JSON.stringify(list, null, 2)}\n` : lines;
  if (options.out === undefined) terminal.out(text);
  else {
    const file = resolve(terminal.folder, options.out);
    if (existsSync(file) && options.overwrite !== true)
      throw new ProblemError([problems.fileExists({ file, line: 1 }, file)]);
    writeFiles([{ file, text }]);
    terminal.note(`${list.length} cases written to ${shortPath(terminal, file)}.\n`);
  }
  return 0;
}
