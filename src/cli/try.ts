import { readFileSync } from 'node:fs';
import { askAll, judgeAnswer } from '../agreement/index.js';
import { caseOf } from '../core/cases/index.js';
import { ProblemError, problems } from '../core/messages/index.js';
import type { Wire } from '../core/model/index.js';
import { ledgerOf } from '../core/targets/index.js';
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
  const one = caseOf(input, options.wire, model, project.schema);
  const answered = [];
  for (const [name, layer] of Object.entries(layers)) {
    // Who does not take the record's own wire gets it on one that it takes.
    const on = layer.can.wires.includes(options.wire) ? options.wire : layer.can.wires[0];
    const own = caseOf(input, options.wire, model, project.schema, on);
    answered.push(...(await askAll([own], { [name]: layer }, project)));
  }
  const ledger = ledgerOf(project.schema);
  const judged = answered.map((answer) => {
    const layer = layers[answer.layer];
    if (layer === undefined) throw new Error(`no layer ${answer.layer}`);
    const entries = ledger.filter(({ target }) => target === layer.target);
    const judgement = judgeAnswer(
      answer,
      layer,
      new Map(entries.map(({ constraint, fidelity }) => [constraint, fidelity])),
      model,
    );
    const why = typeof judgement === 'string' ? judgement : judgement.known ? 'known' : judgement.reason;
    return { name: answer.layer, answer: answer.answer, agrees: typeof judgement === 'string', why };
  });
  const before = one.before.map(({ ruleset: of, row }) => {
    const key = project.schema.find((other) => other.ruleset === of)?.key;
    return { ruleset: of, key: String(key == null ? '' : row[key]) };
  });
  const result = { ruleset, input, expected: one.expected, before, layers: judged };
  terminal.out(options.format === 'json' ? `${JSON.stringify(result, null, 2)}\n` : tryText(result, terminal.look));
  return judged.some(({ agrees, why }) => !agrees && why !== 'known') ? 1 : 0;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    throw new ProblemError([problems.recordInvalid(null, reason)]);
  }
}
