import { visible } from '../agreement/index.js';
import type { Schema } from '../core/declare/index.js';
import type { Entry } from '../core/model/index.js';

/** The ledger for a person: each constraint, what it became in each target, and how true that is. */
export function ledgerMarkdown(schema: Schema, ledger: readonly Entry[]): string {
  return `# What each rule became

\`exact\`: refuses what the rule refuses, and alters nothing. Anything else is told with the reason and, where there is
one, a value that shows it.
${schema.map((model) => section(model, ledger)).join('')}`;
}

function section(model: Schema[number], ledger: readonly Entry[]): string {
  const rows = model.constraints.flatMap(({ id }) =>
    ledger
      .filter(({ constraint }) => constraint === id)
      .map(({ target, becomes, fidelity }, at) => {
        const why = fidelity.is === 'exact' ? '' : `: ${fidelity.why}${shown(fidelity.shown)}`;
        return `| ${at === 0 ? `\`${id}\`` : ''} | ${target} | **${fidelity.is}**${escaped(why)} | ${code(becomes)} |`;
      }),
  );
  return `\n## ${model.ruleset}\n\n| rule | target | fidelity | becomes |\n|---|---|---|---|\n${rows.join('\n')}\n`;
}

function shown(value: unknown): string {
  return value === undefined ? '' : `, as with ${visible(value)}`;
}

function code(text: string | null): string {
  return text === null
    ? ''
    : `\`\` ${escaped(visible(text).slice(1, -1).replaceAll('\\"', '"').replaceAll('\\\\', '\\'))} \`\``;
}

function escaped(text: string): string {
  return text.replaceAll('|', '\\|').replaceAll('\n', ' ');
}
