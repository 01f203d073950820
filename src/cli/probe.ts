import { probeLayers } from '../agreement/index.js';
import { casesFor } from '../core/cases/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import { allTargetNames, ledgerOf } from '../core/targets/index.js';
import { probeText } from '../report/index.js';
import { narrowed, type Project } from './project.js';
import { progressLine, type Terminal } from './terminal.js';

export interface ProbeOptions {
  readonly ruleset?: readonly string[];
  readonly layer?: readonly string[];
  readonly known?: boolean;
  readonly format: 'text' | 'json';
}

/** Gives the cases to every layer, and tells who disagrees. Exit code 1 where somebody does. */
export async function probe(project: Project, options: ProbeOptions, terminal: Terminal): Promise<number> {
  if (Object.keys(project.layers).length === 0) throw new ProblemError([problems.layersMissing(null)]);
  const { asked, layers } = narrowed(project, options);
  const cases = asked.flatMap((model) => casesFor(model, project.schema));
  const { progress, done } = progressLine(terminal);
  const result = await probeLayers(
    cases,
    layers,
    project,
    asked,
    ledgerOf(project.schema, allTargetNames),
    progress,
    terminal.stop,
  );
  done();
  const everything = { known: options.known === true };
  terminal.out(
    options.format === 'json'
      ? `${JSON.stringify(result, null, 2)}\n`
      : probeText(result, asked, terminal.look, everything),
  );
  return result.mismatches.length > 0 ? 1 : 0;
}
