import { reviewSchema } from '../core/review/index.js';
import { reviewText, sarifText } from '../report/index.js';
import { narrowed, type Project } from './project.js';
import { shortener, type Terminal } from './terminal.js';

export interface ReviewOptions {
  readonly ruleset?: readonly string[];
  readonly format: 'text' | 'json' | 'sarif';
}

/** Reads the declarations alone and tells what is wrong with them. Exit code 1 where there is more than a note. */
export function review(project: Project, options: ReviewOptions, version: string, terminal: Terminal): number {
  const { asked } = narrowed(project, options);
  const findings = reviewSchema(project.schema, asked);
  const shorten = shortener(terminal);
  if (options.format === 'sarif') terminal.out(sarifText(findings, version, shorten));
  else if (options.format === 'json') {
    const result = { rulesets: asked.map(({ ruleset }) => ruleset), findings };
    terminal.out(`${shorten(JSON.stringify(result, null, 2))}\n`);
  } else terminal.out(reviewText(findings, asked.length, terminal.look, shorten));
  return findings.some(({ severity }) => severity !== 'note') ? 1 : 0;
}
