import { measureStrength, openScratches } from '../agreement/strength/index.js';
import { strengthText } from '../report/index.js';
import { narrowed, type Project } from './project.js';
import { progressLine, type Terminal } from './terminal.js';

export interface StrengthOptions {
  readonly ruleset?: readonly string[];
  readonly format: string;
}

/** Plants mistakes in every compiled layer, and tells what the cases catch. Exit code 1 where one is missed. */
export async function strength(project: Project, options: StrengthOptions, terminal: Terminal): Promise<number> {
  const { asked } = narrowed(project, options.ruleset === undefined ? {} : { ruleset: options.ruleset });
  const { scratches, leftOut } = await openScratches(project.targets);
  const { progress, done } = progressLine(terminal);
  try {
    const result = await measureStrength(asked, project.schema, { scratches, leftOut, progress });
    done();
    terminal.out(
      options.format === 'json' ? `${JSON.stringify(result, null, 2)}\n` : strengthText(result, terminal.look),
    );
    const missed = result.mutants.some(({ outcome }) => outcome === 'survived');
    return missed || result.unsound.length > 0 ? 1 : 0;
  } finally {
    for (const scratch of scratches) await scratch.close();
  }
}
