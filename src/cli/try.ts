import { readFileSync } from 'node:fs';
import { askOne } from '../agreement/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import type { Wire } from '../core/model/index.js';
import { allTargetNames, ledgerOf } from '../core/targets/index.js';
import { tryText } from '../report/index.js';
import { narrowed, type Project } from './project.js';
import type { Terminal } from './terminal.js';

export interface TryOptions {
  readonly wire: Wire;
  readonly layer?: readonly string[];
  readonly format: 'text' | 'json';
}

/** Gives one record to every layer. Exit code 1 where a layer disagrees with the meaning of the rules. */
export async function tryRecord(
  project: Project,
  ruleset: string,
  record: string,
  options: TryOptions,
  terminal: Terminal,
): Promise<number> {
  const { asked, layers } = narrowed(project, { ...options, ruleset: [ruleset] });
  const [model] = asked;
  if (model === undefined) throw new Error(`no ruleset ${ruleset}`);
  const input = parsed(record === '-' ? readFileSync(0, 'utf8') : record);
  const ledger = ledgerOf(project.schema, allTargetNames);
  const lookUps = project.lookUps[ruleset] ?? {};
  const result = await askOne(input, options.wire, model, layers, project, ledger, lookUps);
  terminal.out(options.format === 'json' ? `${JSON.stringify(result, null, 2)}\n` : tryText(result, terminal.look));
  return result.layers.some(({ status }) => status === 'disagrees') ? 1 : 0;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    throw new ProblemError([problems.recordInvalid(null, reason)]);
  }
}
