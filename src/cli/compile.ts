import { join, relative } from 'node:path';
import { ProblemError } from '../core/messages/index.js';
import { compileSchema } from '../core/targets/index.js';
import { functionProblems } from '../functions/index.js';
import { compileText, ledgerMarkdown } from '../report/index.js';
import { lineWith } from './lines.js';
import { sealed, sealedJson, writeMade } from './made-files.js';
import type { Project } from './project.js';
import type { Terminal } from './terminal.js';
import { shortPath } from './terminal.js';

export interface CompileOptions {
  readonly overwrite?: boolean;
  readonly format: 'text' | 'json';
}

/** Makes every target's files and the ledger; lists what was found and what was passed over. */
export function compile(project: Project, options: CompileOptions, terminal: Terminal): number {
  const { schema, sources, output, passedOver, targets } = project;
  const wrong = targets.includes('javascript') ? functionProblems(schema, lineWith) : [];
  if (wrong.length > 0) throw new ProblemError(wrong);
  const { files: made, ledger } = compileSchema(schema, targets);
  const sourcesOf = (rulesets: readonly string[]) => [...new Set(rulesets.map((name) => sources.get(name) ?? name))];
  const all = sourcesOf(schema.map(({ ruleset }) => ruleset));
  const files = [
    ...made.map(({ path, text, from, comment }) => sealed(path, text, sourcesOf(from), comment)),
    sealed('fidelity.md', ledgerMarkdown(schema, ledger), all, ['<!-- ', ' -->']),
    sealedJson('fidelity.json', { entries: ledger }, all),
  ];
  const { written, unchanged, stale } = writeMade(output, files, options.overwrite === true);
  const fromHere = (path: string) => shortPath(terminal, join(output, path));
  const result = {
    rulesets: schema.map(({ ruleset, fields, constraints }) => ({
      name: ruleset,
      file: fromFolder(terminal, project, sources.get(ruleset) ?? ''),
      fields: Object.keys(fields).length,
      rules: constraints.filter(({ facet }) => !facet).length,
    })),
    passedOver: passedOver.map((one) => ({ ...one, file: fromFolder(terminal, project, one.file) })),
    written: written.map(fromHere),
    unchanged: unchanged.map(fromHere),
    stale: stale.map(fromHere),
  };
  terminal.out(
    options.format === 'json'
      ? `${JSON.stringify(result, null, 2)}\n`
      : compileText(result, schema, ledger, terminal.look),
  );
  return 0;
}

function fromFolder({ folder }: Terminal, project: Project, file: string): string {
  return relative(folder, join(project.folder, file));
}
