import type { Answer, Verdict } from '../core/model/index.js';
import { columns, type Look, paintFor } from './table.js';
import { shownAnswer, shownValue } from './values.js';

/** What every layer says of one record. */
export interface TryResult {
  readonly ruleset: string;
  readonly input: unknown;
  readonly expected: Verdict;
  /** The rows that are taken to be stored, so that references find their targets. */
  readonly before: readonly { readonly ruleset: string; readonly key: string }[];
  readonly layers: readonly {
    readonly name: string;
    readonly answer: Answer;
    readonly agrees: boolean;
    readonly why: string;
  }[];
}

export function tryText({ ruleset, expected, before, layers }: TryResult, look: Look): string {
  const paint = paintFor(look);
  const parts: string[] = [];
  if ('accepted' in expected) {
    const fields = Object.entries(expected.accepted).map(([path, value]) => [`  ${path}`, shownValue(value)]);
    parts.push(`${paint.bold(paint.green('accepted'))} as this ${ruleset}:\n${columns(fields, look)}`);
  } else {
    const told = [...expected.refused, ...expected.possibly];
    const rows = told.map(({ pointer, rule, message }) => [
      `  ${paint.bold(pointer || '(record)')}`,
      message,
      paint.dim(rule),
    ]);
    parts.push(`${paint.bold(paint.red('refused'))}:\n${columns(rows, look)}`);
  }
  const rows = layers.map(({ name, answer, agrees, why }) => {
    const skipped = 'notApplicable' in answer;
    const mark = skipped
      ? paint.dim('–')
      : agrees
        ? paint.green('✓')
        : why === 'known'
          ? paint.yellow('~')
          : paint.red('✗');
    return [`  ${mark} ${name}`, shownAnswer(answer)];
  });
  parts.push(columns(rows, look));
  if (before.length > 0) {
    const names = before.map(({ ruleset: of, key }) => `${of} ${key}`).join(', ');
    parts.push(paint.dim(`Taken to be stored: ${names}.`));
  }
  return `${parts.join('\n\n')}\n`;
}
