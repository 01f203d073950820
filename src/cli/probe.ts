import { type ProbeResult, probeLayers, rowsBeside } from '../agreement/index.js';
import { caseSetsFor, untestedRules } from '../core/cases/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import { allTargetNames, ledgerOf } from '../core/targets/index.js';
import { probeText } from '../report/index.js';
import { narrowed, type Project } from './project.js';
import { progressLine, STOPPED, type Terminal } from './terminal.js';

export interface ProbeOptions {
  readonly ruleset?: readonly string[];
  readonly layer?: readonly string[];
  readonly known?: boolean;
  readonly format: 'text' | 'json';
}

/**
 * Gives the cases to every layer, and reports who disagrees. Exit code 1 where a layer does, or answers none or few of its
 * cases; 130 where it was stopped.
 */
export async function probe(project: Project, options: ProbeOptions, terminal: Terminal): Promise<number> {
  if (Object.keys(project.layers).length === 0) throw new ProblemError([problems.layersMissing(null)]);
  const { asked, layers } = narrowed(project, options);
  const beside = await rowsBeside(layers, project);
  const sets = caseSetsFor(asked, project.schema, beside);
  const cases = sets.flatMap((set) => set.cases);
  const others = () => caseSetsFor(asked, project.schema, beside, 'optional given').flatMap((set) => set.cases);
  const untested = untestedRules(sets, project.schema);
  const ledger = ledgerOf(project.schema, allTargetNames);
  const { progress, done } = progressLine(terminal);
  const stop = terminal.stopping?.() ?? null;
  let result: ProbeResult;
  try {
    result = await probeLayers(cases, layers, project, asked, ledger, progress, stop, untested, others);
  } catch (error) {
    if (stop === null || error !== stop.reason) throw error;
    terminal.note('Stopped before the end; nothing was left behind.\n');
    return STOPPED;
  } finally {
    done();
  }
  const everything = { known: options.known === true };
  terminal.out(
    options.format === 'json'
      ? `${JSON.stringify(result, null, 2)}\n`
      : probeText(result, asked, terminal.look, everything),
  );
  return result.mismatches.length > 0 || result.coverage.some(({ silent }) => silent) ? 1 : 0;
}
