import { measureStrength, openScratches, scratchServers } from '../agreement/strength/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import type { EngineName } from '../core/targets/index.js';
import { strengthText } from '../report/index.js';
import { narrowed, type Project } from './project.js';
import { progressLine, STOPPED, type Terminal } from './terminal.js';

export interface StrengthOptions {
  readonly ruleset?: readonly string[];
  /** Servers, each as `<engine>=<address>`. */
  readonly scratch?: readonly string[];
  readonly format: string;
}

/**
 * Plants mistakes in every compiled layer, and tells what the cases catch. Exit code 1 where one is missed, 130 where it
 * was stopped.
 */
export async function strength(project: Project, options: StrengthOptions, terminal: Terminal): Promise<number> {
  const { asked } = narrowed(project, options.ruleset === undefined ? {} : { ruleset: options.ruleset });
  const servers = serversIn(options.scratch ?? [], project);
  const { scratches, leftOut } = await openScratches(project.targets, servers);
  const stop = terminal.stopping?.() ?? null;
  const { progress, done } = progressLine(terminal);
  try {
    const result = await measureStrength(asked, project.schema, { scratches, leftOut, progress, stop });
    done();
    terminal.out(
      options.format === 'json' ? `${JSON.stringify(result, null, 2)}\n` : strengthText(result, terminal.look),
    );
    const missed = result.mutants.some(({ outcome }) => outcome === 'survived');
    return missed || result.unsound.length > 0 ? 1 : 0;
  } catch (error) {
    done();
    if (stop === null || error !== stop.reason) throw error;
    terminal.note('Stopped before the end; nothing was left behind.\n');
    return STOPPED;
  } finally {
    for (const scratch of scratches) await scratch.close();
  }
}

/** @throws ProblemError for what is no `<engine>=<address>` of an engine that the project compiles for */
function serversIn(given: readonly string[], { targets }: Project): { readonly [E in EngineName]?: string } {
  const known = scratchServers.filter((engine) => targets.includes(engine));
  const pairs = given.map((one) => {
    const [, name, address = ''] = /^([a-z]+)=(.+)$/s.exec(one) ?? [];
    const engine = known.find((other) => other === name);
    if (engine === undefined) throw new ProblemError([problems.scratchInvalid(null, known.join(', ') || 'none')]);
    return [engine, address] as const;
  });
  return Object.fromEntries(pairs);
}
